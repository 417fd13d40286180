export { type Card, card, cardScene, cornerMarkers, WINDOW_BEYOND } from './card.ts';
export { type Cutting, type CuttingAsk, cuttingFor } from './cutting.ts';
export { donorCells, sheetGrid } from './nest.ts';
export { mirrored, rasterise, type Scene, type Shape, srgbByte, toLinear, toSrgb } from './scene.ts';
export { LINE_WIDTHS, strip, TONE_STEPS, target } from './target.ts';
