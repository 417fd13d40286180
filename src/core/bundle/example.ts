/** The header of a JPEG of `w` × `h` pixels with a comment of its own: enough to be told what it is, for tests. */
export const jpegOf = (n: number, w = 40, h = 30): Uint8Array<ArrayBuffer> =>
  Uint8Array.from([
    ...[0xff, 0xd8, 0xff, 0xfe, 0, 3, n],
    ...[0xff, 0xc0, 0, 17, 8, h >> 8, h & 255, w >> 8, w & 255, 3, 1, 0x11, 0, 2, 0x11, 1, 3, 0x11, 1],
    ...[0xff, 0xd9],
  ]);
