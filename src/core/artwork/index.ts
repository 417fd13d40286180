export { applyEdits, mirrorPixels } from './edits.ts';
export { MOST_PIXELS, type PictureFile, pictureFile } from './file.ts';
export { type PictureJob, type PictureNote, pictureNotes, printCost } from './fitness.ts';
export { type GroundLook, type LookOptions, lookOn } from './look.ts';
export { type CoatMatch, labDifference, nearestCoats } from './match.ts';
export { measurePicture, type PictureFacts, THIN_MM, thinnerThan } from './measure.ts';
export { Edit, FITS, type Fit, Picture } from './schema.ts';
export { onPatch, type PrintSize, printSize, tooLargeFor } from './size.ts';
export { type SafeDrawing, safeDrawing } from './svg.ts';
export {
  type PathStep,
  placeDrawing,
  type VectorDrawing,
  type VectorPath,
  vectorsOf,
} from './vectors.ts';
