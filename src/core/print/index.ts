export { type BarLengths, corrected } from './bars.ts';
export {
  type Card,
  CORNER_FIRST,
  type CornerPiece,
  card,
  cardScene,
  cornerPieces,
  markerShapes,
  WINDOW_BEYOND,
} from './card.ts';
export { type Cutting, type CuttingAsk, cuttingFor } from './cutting.ts';
export { donorCells, largestPrint, sheetGrid, WORDS_MM } from './donor-room.ts';
export { mirrored, rasterise, type Scene, type Shape, srgbByte } from './scene.ts';
export { LINE_WIDTHS, strip, TONE_STEPS, target, targetOn } from './target.ts';
