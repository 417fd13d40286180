import { expose } from 'comlink';
import type { Outcome, Progress } from '../core/outcome/index.ts';
import { card, target } from '../core/print/index.ts';
import { type GroundColour, readGround, readPhoto, referenceOf } from '../core/reading/index.ts';
import type { Reading } from '../core/trial/index.ts';
import { decodePhoto, encodePhoto } from './picture.ts';

const library = import('./image-library.ts').then(async module => {
  await module.ready;
  return module;
});

export interface ReadAnswer {
  readonly reading: Reading;
  /** The straightened picture as JPEG. */
  readonly straight: Blob;
}

const api = {
  /** Resolves when the image library is ready. */
  async warmUp(): Promise<void> {
    await library;
  },
  /** Reads one photo of a patch. */
  async read(
    photo: Blob,
    patchMm: number,
    stage: 'wet' | 'dry',
    tell: Progress,
  ): Promise<Outcome<ReadAnswer>> {
    const { cv } = await library;
    const pixels = await decodePhoto(photo);
    if (!pixels.ok) return pixels;
    const read = readPhoto(cv, pixels.value, card(patchMm), referenceOf(target(patchMm)), { stage }, tell);
    if (!read.ok) return read;
    return {
      ok: true,
      value: { reading: read.value.reading, straight: await encodePhoto(read.value.straight, 0.9) },
    };
  },
  /** The colour of a bare ground through the card of this patch size. */
  async ground(photo: Blob, patchMm: number): Promise<Outcome<GroundColour>> {
    const { cv } = await library;
    const pixels = await decodePhoto(photo);
    return pixels.ok ? readGround(cv, pixels.value, card(patchMm)) : pixels;
  },
};
export type ReaderApi = typeof api;

expose(api);
