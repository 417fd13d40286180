export { shapeOf } from './bare.ts';
export type { Cv, Pixels } from './cv.ts';
export { base64, type ReadPhoto, readPhoto } from './read.ts';
