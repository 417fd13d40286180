import { createRequire } from 'node:module';
import type { Cv } from '../core/reading/index.ts';

const require = createRequire(import.meta.url);

/** The image library in Node, ready to use. Wrapped in an object: the library has a `then` of its own. */
export async function loadCv(): Promise<{ cv: Cv }> {
  const cv = require('@techstark/opencv-js');
  if (!cv.Mat)
    await new Promise<void>(resolve => {
      cv.onRuntimeInitialized = resolve;
    });
  return { cv };
}
