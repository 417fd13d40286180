import { bad, good, type Outcome } from '../core/outcome/index.ts';
import type { Pixels } from '../core/reading/index.ts';

const MOST_BYTES = 60e6;
const MOST_PIXELS = 52e6;

/** Decodes a photo upright to RGBA, or says why it cannot. */
export async function decodePhoto(photo: Blob): Promise<Outcome<Pixels>> {
  if (photo.size > MOST_BYTES)
    return bad('too-big', 'This file is larger than 60 MB.', 'Export the photo as JPEG from your phone.');
  let bitmap: ImageBitmap;
  try {
    bitmap = await createImageBitmap(photo, { imageOrientation: 'from-image' });
  } catch {
    return bad(
      'not-a-picture',
      'This file cannot be opened as a picture.',
      'Use JPEG, PNG or WebP. If your phone saves HEIC, set its camera to "most compatible".',
    );
  }
  if (bitmap.width * bitmap.height > MOST_PIXELS)
    return bad('too-big', 'This photo has more than 50 million pixels.', 'Set the camera to a smaller size.');
  const canvas = new OffscreenCanvas(bitmap.width, bitmap.height);
  const context = canvas.getContext('2d', { willReadFrequently: true })!;
  context.drawImage(bitmap, 0, 0);
  const { data } = context.getImageData(0, 0, bitmap.width, bitmap.height);
  const pixels = { w: bitmap.width, h: bitmap.height, data };
  bitmap.close();
  return good(pixels);
}

/** Encodes RGBA as JPEG. */
export function encodePhoto(pixels: Pixels, quality: number): Promise<Blob> {
  const canvas = new OffscreenCanvas(pixels.w, pixels.h);
  const image = new ImageData(new Uint8ClampedArray(pixels.data), pixels.w, pixels.h);
  canvas.getContext('2d')!.putImageData(image, 0, 0);
  return canvas.convertToBlob({ type: 'image/jpeg', quality });
}
