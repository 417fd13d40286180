export { type Card, card, cardScene, WINDOW_BEYOND } from './card.ts';
export { donorCells, sheetGrid } from './nest.ts';
export { mirrored, rasterise, type Scene, type Shape, srgbByte, toLinear, toSrgb } from './scene.ts';
export { LINE_WIDTHS, TONE_STEPS, target } from './target.ts';
