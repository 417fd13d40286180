import type { Outline } from '../trial/index.ts';
import { type Sides, sidesOf } from '../units/index.ts';

/** One place for a patch: its top left corner in mm, and whether it lies on the outside of the field. */
export interface Place {
  readonly x: number;
  readonly y: number;
  readonly edge: boolean;
  readonly col: number;
  readonly row: number;
}

/** How many patches a board takes, and where. All in mm. */
export interface BoardGrid {
  readonly cols: number;
  readonly rows: number;
  /** Top left corners, row by row. */
  readonly places: readonly Place[];
}

/**
 * Whether a patch with its margin lies inside a board of this outline.
 *
 * @example insideBoard({ w: 100, h: 80, outline: 'rectangle' }, 50, 20, 40, 10); // => true
 */
export function insideBoard(
  board: { readonly w: number; readonly h: number; readonly outline?: Outline },
  x: number,
  y: number,
  patch: Sides,
  marginMm: number,
): boolean {
  const slack = 0.05;
  const { w, h } = sidesOf(patch);
  if (x < marginMm - slack || y < marginMm - slack) return false;
  if (x + w > board.w - marginMm + slack || y + h > board.h - marginMm + slack) return false;
  if (board.outline !== 'ellipse') return true;
  const a = board.w / 2 - marginMm;
  const b = board.h / 2 - marginMm;
  if (a <= 0 || b <= 0) return false;
  return [x, x + w].every(px =>
    [y, y + h].every(py => ((px - board.w / 2) / a) ** 2 + ((py - board.h / 2) / b) ** 2 <= 1 + 1e-3),
  );
}

/** Regular places for patches, centred on the board; none when the board is too small. */
export function boardGrid(
  board: { readonly w: number; readonly h: number; readonly outline?: Outline },
  patch: Sides,
  gutterMm: number,
  marginMm: number,
): BoardGrid {
  const { w, h } = sidesOf(patch);
  const [across, down] = [w + gutterMm, h + gutterMm];
  const countAlong = (side: number, pitch: number) =>
    Math.max(0, Math.floor((side - 2 * marginMm + gutterMm + 0.01) / pitch));
  const cols = countAlong(board.w, across);
  const rows = countAlong(board.h, down);
  const left = (board.w - (cols * across - gutterMm)) / 2;
  const top = (board.h - (rows * down - gutterMm)) / 2;
  const all = Array.from({ length: cols * rows }, (_, i) => {
    const col = i % cols;
    const row = Math.floor(i / cols);
    return { col, row, x: tenth(left + col * across), y: tenth(top + row * down) };
  }).filter(p => insideBoard(board, p.x, p.y, patch, Math.min(marginMm, left + 0.05)));
  const taken = new Set(all.map(p => `${p.col} ${p.row}`));
  const places = all.map(p => ({
    ...p,
    edge: [
      [1, 0],
      [-1, 0],
      [0, 1],
      [0, -1],
    ].some(([dx, dy]) => !taken.has(`${p.col + dx} ${p.row + dy}`)),
  }));
  return { cols, rows, places };
}

const tenth = (v: number) => Math.round(v * 10) / 10;

/** How long a side is that `count` patches lie along, in whole mm. */
export const sideFor = (count: number, patchMm: number, gutterMm: number, marginMm: number): number =>
  Math.ceil(count * (patchMm + gutterMm) - gutterMm + 2 * marginMm);

/** The nearest-to-square board of an outline that holds `count` patches, in whole mm. */
export function smallestBoard(
  count: number,
  patch: Sides,
  gutterMm: number,
  marginMm: number,
  outline: Outline = 'rectangle',
) {
  const { w, h } = sidesOf(patch);
  const rows = Math.ceil(count / Math.ceil(Math.sqrt(count * 1.3)));
  const cols = Math.ceil(count / rows);
  const board = {
    w: sideFor(cols, w, gutterMm, marginMm),
    h: sideFor(rows, h, gutterMm, marginMm),
  };
  if (outline === 'rectangle') return board;
  const holds = (grown: number) => {
    const oval = { w: Math.ceil(board.w * grown), h: Math.ceil(board.h * grown), outline };
    return boardGrid(oval, patch, gutterMm, marginMm).places.length >= count ? oval : undefined;
  };
  // An oval three times as long each way holds the rectangle itself.
  for (let grown = 1; grown < 3; grown += 0.02) {
    const oval = holds(grown);
    if (oval) return { w: oval.w, h: oval.h };
  }
  return { w: board.w * 3, h: board.h * 3 };
}
