/** What the first bytes of an image file say of it: what it is and how large. */
export interface ImageHead {
  readonly kind: 'jpg' | 'png' | 'webp';
  readonly w: number;
  readonly h: number;
}

const text = (bytes: Uint8Array, from: number, to: number) =>
  String.fromCharCode(...bytes.subarray(from, to));
const u16 = (b: Uint8Array, i: number) => (b[i] << 8) | b[i + 1];
const u32 = (b: Uint8Array, i: number) =>
  ((b[i] << 24) | (b[i + 1] << 16) | (b[i + 2] << 8) | b[i + 3]) >>> 0;
const le16 = (b: Uint8Array, i: number) => b[i] | (b[i + 1] << 8);
const le24 = (b: Uint8Array, i: number) => b[i] | (b[i + 1] << 8) | (b[i + 2] << 16);

/**
 * The kind of an image file and its size in pixels, read from its headers without decoding it; nothing where they are
 * not those of a JPEG (ITU T.81, annex B), a PNG (W3C, section 5) or a WebP (RFC 9649).
 *
 * @example imageHead(Uint8Array.from([0xff, 0xd8, 60, 104])); // => undefined
 */
export function imageHead(bytes: Uint8Array): ImageHead | undefined {
  const found = jpegHead(bytes) ?? pngHead(bytes) ?? webpHead(bytes);
  return found && found.w > 0 && found.h > 0 ? found : undefined;
}

/** Markers that start a frame, and so tell its size: all of C0–CF but the tables DHT, JPG and DAC. */
const isFrame = (marker: number) => marker >= 0xc0 && marker <= 0xcf && ![0xc4, 0xc8, 0xcc].includes(marker);

function jpegHead(b: Uint8Array): ImageHead | undefined {
  if (u16(b, 0) !== 0xffd8) return undefined;
  let at = 2;
  while (at + 9 < b.length) {
    if (b[at] !== 0xff) return undefined;
    const marker = b[at + 1];
    if (marker === 0xff) {
      at++;
      continue;
    }
    if (isFrame(marker)) return { kind: 'jpg', h: u16(b, at + 5), w: u16(b, at + 7) };
    if (marker === 0xda || marker === 0xd9) return undefined;
    at += 2 + u16(b, at + 2);
  }
  return undefined;
}

function pngHead(b: Uint8Array): ImageHead | undefined {
  const signed = u32(b, 0) === 0x89504e47 && u32(b, 4) === 0x0d0a1a0a;
  if (!signed || text(b, 12, 16) !== 'IHDR' || b.length < 24) return undefined;
  return { kind: 'png', w: u32(b, 16), h: u32(b, 20) };
}

function webpHead(b: Uint8Array): ImageHead | undefined {
  if (text(b, 0, 4) !== 'RIFF' || text(b, 8, 12) !== 'WEBP' || b.length < 30) return undefined;
  switch (text(b, 12, 16)) {
    case 'VP8 ':
      return { kind: 'webp', w: le16(b, 26) & 0x3fff, h: le16(b, 28) & 0x3fff };
    case 'VP8L':
      return { kind: 'webp', w: 1 + (le16(b, 21) & 0x3fff), h: 1 + ((le24(b, 22) >> 6) & 0x3fff) };
    case 'VP8X':
      return { kind: 'webp', w: 1 + le24(b, 24), h: 1 + le24(b, 27) };
    default:
      return undefined;
  }
}
