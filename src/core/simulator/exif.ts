/**
 * Puts an EXIF block into a JPEG right after its start: ImageDescription, UserComment and
 * DateTimeOriginal (EXIF 2.3, big-endian TIFF). Simulated photos say here that they are simulated.
 * Throws nothing; a file that is no JPEG comes back as it was.
 */
export function withExif(jpeg: Uint8Array, comment: string, takenAt: Date): Uint8Array {
  if (jpeg[0] !== 0xff || jpeg[1] !== 0xd8) return jpeg;
  const ascii = (text: string) => [...`${text}\0`].map(ch => ch.charCodeAt(0) & 0x7f);
  const two = (n: number) => String(n).padStart(2, '0');
  const stamp = `${takenAt.getFullYear()}:${two(takenAt.getMonth() + 1)}:${two(takenAt.getDate())} ${two(takenAt.getHours())}:${two(takenAt.getMinutes())}:${two(takenAt.getSeconds())}`;
  const description = ascii(comment);
  const user = [...ascii('ASCII').slice(0, 5), 0, 0, 0, ...ascii(comment)];
  const date = ascii(stamp);

  const u16 = (n: number) => [(n >> 8) & 255, n & 255];
  const u32 = (n: number) => [...u16(n >>> 16), ...u16(n & 0xffff)];
  const entry = (tag: number, type: number, count: number, value: number) => [
    ...u16(tag),
    ...u16(type),
    ...u32(count),
    ...u32(value),
  ];
  const ifd0 = 8;
  const ifd0Size = 2 + 2 * 12 + 4;
  const exif = ifd0 + ifd0Size;
  const exifSize = 2 + 2 * 12 + 4;
  const data = exif + exifSize;
  const tiff = [
    0x4d,
    0x4d,
    ...u16(42),
    ...u32(ifd0),
    ...u16(2),
    ...entry(0x010e, 2, description.length, data),
    ...entry(0x8769, 4, 1, exif),
    ...u32(0),
    ...u16(2),
    ...entry(0x9003, 2, date.length, data + description.length),
    ...entry(0x9286, 7, user.length, data + description.length + date.length),
    ...u32(0),
    ...description,
    ...date,
    ...user,
  ];
  const body = [...ascii('Exif').slice(0, 4), 0, 0, ...tiff];
  const segment = [0xff, 0xe1, ...u16(body.length + 2), ...body];
  const out = new Uint8Array(jpeg.length + segment.length);
  out.set(jpeg.subarray(0, 2));
  out.set(segment, 2);
  out.set(jpeg.subarray(2), 2 + segment.length);
  return out;
}

/** The words by which a simulated photo is known. */
export const SIMULATED_WORDS = 'Simulated photo made by Wet Test';
