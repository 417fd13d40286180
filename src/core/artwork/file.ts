import { bad, good, type Outcome } from '../outcome/index.ts';

/** What the first bytes of a picture file say of it. */
export interface PictureFile {
  readonly kind: 'png' | 'jpeg' | 'webp' | 'svg';
  /** Pixels as stored, before any turning by EXIF; none for drawings. */
  readonly w?: number;
  readonly h?: number;
  readonly animated: boolean;
  /** Stored in printing inks; its colours are converted when it is opened. */
  readonly cmyk: boolean;
}

export const MOST_PIXELS = 50e6;
const MOST_BYTES = 80e6;
const u16 = (b: Uint8Array, at: number) => (b[at] << 8) | b[at + 1];
const u32 = (b: Uint8Array, at: number) => u16(b, at) * 65536 + u16(b, at + 2);
const ascii = (b: Uint8Array, at: number, n: number) => String.fromCharCode(...b.subarray(at, at + n));

/** Looks at a file before it is decoded: kind, size, animation, inks. Fails with a sentence for what is not taken. */
export function pictureFile(bytes: Uint8Array): Outcome<PictureFile> {
  if (bytes.length > MOST_BYTES) return bad('too-big', 'This file is larger than 80 MB.', 'Save it smaller.');
  const found = sniff(bytes);
  if (!found)
    return bad(
      'not-a-picture',
      'This is not a picture that can be used.',
      'Choose a PNG, JPEG, WebP or SVG file.',
    );
  if (found.w !== undefined && found.h !== undefined) {
    if (found.w < 1 || found.h < 1)
      return bad('broken', 'This picture is damaged.', 'Save it again from the program it comes from.');
    if (found.w * found.h > MOST_PIXELS)
      return bad(
        'too-big',
        `This picture has ${Math.round((found.w * found.h) / 1e6)} million pixels; ${MOST_PIXELS / 1e6} million is the most.`,
        'Save it smaller.',
      );
  }
  return good(found);
}

function sniff(b: Uint8Array): PictureFile | undefined {
  if (b.length > 24 && u32(b, 0) === 0x89504e47) return png(b);
  if (b[0] === 0xff && b[1] === 0xd8) return jpeg(b);
  if (b.length > 30 && ascii(b, 0, 4) === 'RIFF' && ascii(b, 8, 4) === 'WEBP') return webp(b);
  const start = new TextDecoder('utf-8').decode(b.subarray(0, 2000));
  return /<svg[\s>]/i.test(start) || /^\s*<\?xml/.test(start)
    ? { kind: 'svg', animated: false, cmyk: false }
    : undefined;
}

function png(b: Uint8Array): PictureFile {
  let animated = false;
  for (let at = 8; at + 12 <= b.length; at += 12 + u32(b, at)) {
    const chunk = ascii(b, at + 4, 4);
    if (chunk === 'acTL') animated = true;
    if (chunk === 'IDAT' || chunk === 'IEND') break;
  }
  return { kind: 'png', w: u32(b, 16), h: u32(b, 20), animated, cmyk: false };
}

/** Walks the segments to the frame header, which has the size and the number of inks (ITU T.81, B.2.2). */
function jpeg(b: Uint8Array): PictureFile {
  for (let at = 2; at + 9 < b.length; ) {
    if (b[at] !== 0xff) break;
    const mark = b[at + 1];
    const isFrame = mark >= 0xc0 && mark <= 0xcf && ![0xc4, 0xc8, 0xcc].includes(mark);
    if (isFrame)
      return { kind: 'jpeg', h: u16(b, at + 5), w: u16(b, at + 7), animated: false, cmyk: b[at + 9] === 4 };
    at += mark === 0xff ? 1 : 2 + u16(b, at + 2);
  }
  return { kind: 'jpeg', w: 0, h: 0, animated: false, cmyk: false };
}

function webp(b: Uint8Array): PictureFile {
  const chunk = ascii(b, 12, 4);
  const small = (at: number) => b[at] | (b[at + 1] << 8);
  const three = (at: number) => small(at) | (b[at + 2] << 16);
  if (chunk === 'VP8X')
    return { kind: 'webp', w: three(24) + 1, h: three(27) + 1, animated: Boolean(b[20] & 2), cmyk: false };
  if (chunk === 'VP8L') {
    const bits = b[21] | (b[22] << 8) | (b[23] << 16) | (b[24] << 24);
    return {
      kind: 'webp',
      w: (bits & 0x3fff) + 1,
      h: ((bits >>> 14) & 0x3fff) + 1,
      animated: false,
      cmyk: false,
    };
  }
  return { kind: 'webp', w: small(26) & 0x3fff, h: small(28) & 0x3fff, animated: false, cmyk: false };
}
