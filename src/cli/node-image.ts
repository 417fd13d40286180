import sharp from 'sharp';
import type { Pixels } from '../core/reading/index.ts';

/** Decodes a photo file to upright RGBA; throws when it is no picture. */
export async function decode(file: string | Uint8Array): Promise<Pixels> {
  const { data, info } = await sharp(file, { limitInputPixels: 60e6 })
    .rotate()
    .toColourspace('srgb')
    .ensureAlpha()
    .raw()
    .toBuffer({ resolveWithObject: true });
  return {
    w: info.width,
    h: info.height,
    data: new Uint8ClampedArray(data.buffer, data.byteOffset, data.length),
  };
}

/** Encodes RGBA as JPEG. */
export const encodeJpeg = ({ w, h, data }: Pixels, quality = 88): Promise<Buffer> =>
  sharp(data, { raw: { width: w, height: h, channels: 4 } })
    .removeAlpha()
    .jpeg({ quality })
    .toBuffer();

/** Encodes grey bytes as PNG. */
export const encodeGreyPng = (data: Uint8Array, w: number, h: number): Promise<Buffer> =>
  sharp(data, { raw: { width: w, height: h, channels: 1 } })
    .png()
    .toBuffer();
