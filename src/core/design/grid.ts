/** How many patches a board takes, and where. All in mm. */
export interface BoardGrid {
  readonly cols: number;
  readonly rows: number;
  /** Top left corners, row by row. */
  readonly places: readonly { readonly x: number; readonly y: number; readonly edge: boolean }[];
}

/** Regular places for square patches, centred on the board; none when the board is too small. */
export function boardGrid(
  board: { w: number; h: number },
  patchMm: number,
  gutterMm: number,
  marginMm: number,
): BoardGrid {
  const countAlong = (side: number) =>
    Math.max(0, Math.floor((side - 2 * marginMm + gutterMm) / (patchMm + gutterMm)));
  const cols = countAlong(board.w);
  const rows = countAlong(board.h);
  const pitch = patchMm + gutterMm;
  const left = (board.w - (cols * pitch - gutterMm)) / 2;
  const top = (board.h - (rows * pitch - gutterMm)) / 2;
  const places = Array.from({ length: cols * rows }, (_, i) => {
    const col = i % cols;
    const row = Math.floor(i / cols);
    return {
      x: Math.round((left + col * pitch) * 10) / 10,
      y: Math.round((top + row * pitch) * 10) / 10,
      edge: col === 0 || row === 0 || col === cols - 1 || row === rows - 1,
    };
  });
  return { cols, rows, places };
}

/** The nearest-to-square board that holds `count` patches, in whole mm. */
export function smallestBoard(count: number, patchMm: number, gutterMm: number, marginMm: number) {
  const cols = Math.ceil(Math.sqrt(count * 1.3));
  const rows = Math.ceil(count / cols);
  const side = (n: number) => Math.ceil(n * (patchMm + gutterMm) - gutterMm + 2 * marginMm);
  return { w: side(cols), h: side(rows) };
}
