import * as opencv from '@techstark/opencv-js';
import type { Cv } from '../core/reading/index.ts';

const loaded = ((opencv as unknown as { default?: unknown }).default ?? opencv) as Cv & {
  onRuntimeInitialized?: () => void;
};

/** The image library; usable once {@link ready} has resolved. Never returned bare from async code: it has a `then`. */
export const cv: Cv = loaded;

/** Resolves when the library has started. */
export const ready = new Promise<void>(resolve => {
  if (loaded.Mat) resolve();
  else loaded.onRuntimeInitialized = () => resolve();
});
