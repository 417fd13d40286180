/** A photo as RGBA bytes, row by row, sRGB. */
export interface Pixels {
  readonly w: number;
  readonly h: number;
  readonly data: Uint8ClampedArray | Uint8Array;
}
