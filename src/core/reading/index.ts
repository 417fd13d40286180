export { shapeOf } from './bare.ts';
export { type Board, readBoard } from './board.ts';
export type { Cv, Pixels } from './cv.ts';
export { base64 } from './maps.ts';
export { type ReadPhoto, readPhoto } from './read.ts';
export { type GroundColour, readGround } from './read-ground.ts';
export { type Reference, referenceFrom, referenceOf } from './reference.ts';
