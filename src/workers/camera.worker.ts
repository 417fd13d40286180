import { expose } from 'comlink';
import { card, target } from '../core/print/index.ts';
import {
  type PatchHistory,
  photograph,
  SIMULATED_WORDS,
  simulateProcess,
  withExif,
} from '../core/simulator/index.ts';
import { encodePhoto } from './picture.ts';

const api = {
  /** A simulated photo of a patch with this history, as a JPEG whose EXIF says that it is simulated. */
  async shoot(history: PatchHistory, stage: 'wet' | 'dry', shotSeed: number): Promise<Blob> {
    const { settings, patchMm } = history;
    const outcome = simulateProcess(history);
    const shot = photograph(
      outcome,
      target(patchMm),
      card(patchMm),
      settings.substrate,
      settings.preparation,
      { seed: shotSeed, stage },
    );
    const jpeg = new Uint8Array(await (await encodePhoto(shot.photo, 0.85)).arrayBuffer());
    return new Blob([withExif(jpeg, SIMULATED_WORDS, new Date()) as BlobPart], { type: 'image/jpeg' });
  },
};
export type CameraApi = typeof api;

expose(api);
