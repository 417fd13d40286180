export { shapeOf } from './bare.ts';
export type { Cv, Pixels } from './cv.ts';
export { base64, type GroundColour, type ReadPhoto, readGround, readPhoto } from './read.ts';
