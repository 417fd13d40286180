export {
  type BoardScene,
  boardLook,
  photograph,
  photographBoard,
  photographGround,
  type Shot,
  type Simulated,
  truth,
} from './camera.ts';
export { SIMULATED_WORDS, withExif } from './exif.ts';
export { type Hands, historyOf } from './history.ts';
export { ground as groundLook, type Printed, printedFace, printedPixels, printedScene } from './look.ts';
export { type FailedPiece, failedPiece, MISHAP_CAUSES } from './mishaps.ts';
export { dryness, type PatchHistory, type PatchOutcome, simulateProcess } from './process.ts';
export { type Seen, type Step, stepOutcome } from './steps-of-scale.ts';
