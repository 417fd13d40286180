import type { Outline } from '../trial/index.ts';

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
 * Whether a square patch with its margin lies inside a board of this outline.
 *
 * @example insideBoard({ w: 100, h: 80, outline: 'rectangle' }, 50, 20, 40, 10); // => true
 */
export function insideBoard(
  board: { readonly w: number; readonly h: number; readonly outline?: Outline },
  x: number,
  y: number,
  patchMm: number,
  marginMm: number,
): boolean {
  const slack = 0.05;
  if (x < marginMm - slack || y < marginMm - slack) return false;
  if (x + patchMm > board.w - marginMm + slack || y + patchMm > board.h - marginMm + slack) return false;
  if (board.outline !== 'ellipse') return true;
  const a = board.w / 2 - marginMm;
  const b = board.h / 2 - marginMm;
  if (a <= 0 || b <= 0) return false;
  return [x, x + patchMm].every(px =>
    [y, y + patchMm].every(py => ((px - board.w / 2) / a) ** 2 + ((py - board.h / 2) / b) ** 2 <= 1 + 1e-3),
  );
}

/** Regular places for square patches, centred on the board; none when the board is too small. */
export function boardGrid(
  board: { readonly w: number; readonly h: number; readonly outline?: Outline },
  patchMm: number,
  gutterMm: number,
  marginMm: number,
): BoardGrid {
  const pitch = patchMm + gutterMm;
  const countAlong = (side: number) =>
    Math.max(0, Math.floor((side - 2 * marginMm + gutterMm + 0.01) / pitch));
  const cols = countAlong(board.w);
  const rows = countAlong(board.h);
  const left = (board.w - (cols * pitch - gutterMm)) / 2;
  const top = (board.h - (rows * pitch - gutterMm)) / 2;
  const all = Array.from({ length: cols * rows }, (_, i) => {
    const col = i % cols;
    const row = Math.floor(i / cols);
    return { col, row, x: tenth(left + col * pitch), y: tenth(top + row * pitch) };
  }).filter(p => insideBoard(board, p.x, p.y, patchMm, Math.min(marginMm, left + 0.05)));
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
  patchMm: number,
  gutterMm: number,
  marginMm: number,
  outline: Outline = 'rectangle',
) {
  const rows = Math.ceil(count / Math.ceil(Math.sqrt(count * 1.3)));
  const cols = Math.ceil(count / rows);
  const board = {
    w: sideFor(cols, patchMm, gutterMm, marginMm),
    h: sideFor(rows, patchMm, gutterMm, marginMm),
  };
  if (outline === 'rectangle') return board;
  const holds = (grown: number) => {
    const oval = { w: Math.ceil(board.w * grown), h: Math.ceil(board.h * grown), outline };
    return boardGrid(oval, patchMm, gutterMm, marginMm).places.length >= count ? oval : undefined;
  };
  // An oval three times as long each way holds the rectangle itself.
  for (let grown = 1; grown < 3; grown += 0.02) {
    const oval = holds(grown);
    if (oval) return { w: oval.w, h: oval.h };
  }
  return { w: board.w * 3, h: board.h * 3 };
}
