export { ground as groundLook, photograph, type Shot, type Simulated, truth } from './camera.ts';
export { SIMULATED_WORDS, withExif } from './exif.ts';
export { dryness, type PatchHistory, type PatchOutcome, simulateProcess } from './process.ts';
