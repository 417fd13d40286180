import { type Carrier, cornersOf, type Outline } from '../trial/index.ts';
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
export function insideBoard(board: Carrier, x: number, y: number, patch: Sides, marginMm: number): boolean {
  const slack = 0.05;
  const { w, h } = sidesOf(patch);
  if (x < marginMm - slack || y < marginMm - slack) return false;
  if (x + w > board.w - marginMm + slack || y + h > board.h - marginMm + slack) return false;
  const corners = cornersOf(board);
  if (corners) return insideCorners(corners, { x, y, w, h }, marginMm - slack);
  if (board.outline !== 'ellipse') return true;
  const a = board.w / 2 - marginMm;
  const b = board.h / 2 - marginMm;
  if (a <= 0 || b <= 0) return false;
  return [x, x + w].every(px =>
    [y, y + h].every(py => ((px - board.w / 2) / a) ** 2 + ((py - board.h / 2) / b) ** 2 <= 1 + 1e-3),
  );
}

interface Point {
  readonly x: number;
  readonly y: number;
}

type Rect = Point & { readonly w: number; readonly h: number };

/** Whether a rectangle lies in a polygon and no side of it comes closer than `apart`: its middle is inside (even–odd rule) and each side keeps away from it. */
function insideCorners(corners: readonly Point[], rect: Rect, apart: number): boolean {
  const [mx, my] = [rect.x + rect.w / 2, rect.y + rect.h / 2];
  let inside = false;
  for (const [i, a] of corners.entries()) {
    const b = corners[(i + 1) % corners.length];
    if (a.y > my !== b.y > my && mx < a.x + ((my - a.y) / (b.y - a.y)) * (b.x - a.x)) inside = !inside;
    if (meets(a, b, { x: rect.x - apart, y: rect.y - apart, w: rect.w + 2 * apart, h: rect.h + 2 * apart }))
      return false;
  }
  return inside;
}

/** Whether a line from `a` to `b` runs through the inside of a rectangle (Liang & Barsky 1984). */
function meets(a: Point, b: Point, { x, y, w, h }: Rect): boolean {
  let [from, to] = [0, 1];
  for (const [start, run, lo, hi] of [
    [a.x, b.x - a.x, x, x + w],
    [a.y, b.y - a.y, y, y + h],
  ]) {
    if (run === 0) {
      if (start <= lo || start >= hi) return false;
      continue;
    }
    const [one, other] = [(lo - start) / run, (hi - start) / run];
    from = Math.max(from, Math.min(one, other));
    to = Math.min(to, Math.max(one, other));
  }
  return from < to;
}

/** Whether a patch keeps `apart` from what others have on the board. */
export const clearOf = (board: Carrier, x: number, y: number, patch: Sides, apart: number): boolean => {
  const { w, h } = sidesOf(patch);
  return !(board.taken ?? []).some(
    t =>
      x < t.x + t.w + apart - 0.05 &&
      t.x < x + w + apart - 0.05 &&
      y < t.y + t.h + apart - 0.05 &&
      t.y < y + h + apart - 0.05,
  );
};

/** How many ways to shift the field are looked at each way, on a board that is no plain rectangle or oval. */
const SHIFTS = 9;

/**
 * Regular places for patches, none when the board is too small: centred on a plain board, with a column or a row less
 * where more have room so on an oval one; where the outline has corners or others have patches on it, the field is
 * shifted so that the most have room.
 */
export function boardGrid(board: Carrier, patch: Sides, gutterMm: number, marginMm: number): BoardGrid {
  const { w, h } = sidesOf(patch);
  if (board.under) {
    // A further layer lies in the middle of what is there already.
    const places = board.under
      .filter(u => u.w >= w - 0.05 && u.h >= h - 0.05)
      .map((u, col) => ({
        x: tenth(u.x + (u.w - w) / 2),
        y: tenth(u.y + (u.h - h) / 2),
        edge: false,
        col,
        row: 0,
      }));
    return { cols: places.length, rows: places.length ? 1 : 0, places };
  }
  const [across, down] = [w + gutterMm, h + gutterMm];
  const countAlong = (side: number, pitch: number) =>
    Math.max(0, Math.floor((side - 2 * marginMm + gutterMm + 0.01) / pitch));
  const cols = countAlong(board.w, across);
  const rows = countAlong(board.h, down);
  const field = (x0: number, y0: number, margin: number) =>
    Array.from({ length: cols * rows }, (_, i) => {
      const col = i % cols;
      const row = Math.floor(i / cols);
      return { col, row, x: tenth(x0 + col * across), y: tenth(y0 + row * down) };
    }).filter(p => insideBoard(board, p.x, p.y, patch, margin) && clearOf(board, p.x, p.y, patch, gutterMm));
  /** The field in the middle, with as many columns and rows as said. */
  const centred = (c: number, r: number) => {
    const left = (board.w - (c * across - gutterMm)) / 2;
    const top = (board.h - (r * down - gutterMm)) / 2;
    return field(left, top, Math.min(marginMm, left + 0.05)).filter(p => p.col < c && p.row < r);
  };
  let all = centred(cols, rows);
  // On a round board two columns and two rows may all lie outside, where one in the middle has room.
  if (board.outline === 'ellipse')
    for (const [c, r] of [
      [cols - 1, rows],
      [cols, rows - 1],
      [cols - 1, rows - 1],
    ]) {
      const fewer = c > 0 && r > 0 ? centred(c, r) : [];
      if (fewer.length > all.length) all = fewer;
    }
  if (board.outline === 'corners' || board.taken?.length)
    for (let i = 0; i < SHIFTS ** 2; i++) {
      const at = (k: number, pitch: number) => marginMm + (pitch * k) / SHIFTS;
      const shifted = field(at(i % SHIFTS, across), at(Math.floor(i / SHIFTS), down), marginMm);
      if (shifted.length > all.length) all = shifted;
    }
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
  corners?: Carrier['corners'],
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
    const oval = { w: Math.ceil(board.w * grown), h: Math.ceil(board.h * grown), outline, corners };
    return boardGrid(oval, patch, gutterMm, marginMm).places.length >= count ? oval : undefined;
  };
  // An oval three times as long each way holds the rectangle itself.
  for (let grown = 1; grown < 3; grown += 0.02) {
    const oval = holds(grown);
    if (oval) return { w: oval.w, h: oval.h };
  }
  return { w: board.w * 3, h: board.h * 3 };
}
