/** A mask of `count` pixels: 1 where it is so. */
export function maskOf(count: number, is: (i: number) => boolean | number): Uint8Array<ArrayBuffer> {
  const out = new Uint8Array(count);
  for (let i = 0; i < count; i++) out[i] = is(i) ? 1 : 0;
  return out;
}
