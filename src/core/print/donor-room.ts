import { type Sides, sidesOf } from '../units/index.ts';

const TAB_MM = 9;
const GAP_MM = 6;
const PAGE_MARGIN_MM = 12;
const HEAD_MM = 26;

/** The room one print takes on a donor sheet, mm: the picture with its tab below and a gap for the knife. */
export const donorCells = (patch: Sides) => ({
  w: sidesOf(patch).w + GAP_MM,
  h: sidesOf(patch).h + TAB_MM + GAP_MM,
  tab: TAB_MM,
});

/** The line of words below a picture of the maker's own, mm. */
export const WORDS_MM = 5;

/**
 * The largest print that a sheet holds with the tab below it, the heading and the margins, mm; nothing or less where there is no room.
 *
 * @example largestPrint({ w: 210, h: 297 }).w > 150; // => true
 */
export const largestPrint = (sheet: { w: number; h: number }, below = TAB_MM) => ({
  w: sheet.w - 2 * PAGE_MARGIN_MM,
  h: sheet.h - 2 * PAGE_MARGIN_MM - HEAD_MM - below,
});

/** How prints are nested on a sheet: columns, rows and the top left of each cell in mm. */
export function sheetGrid(sheet: { w: number; h: number }, cell: { w: number; h: number }) {
  const cols = Math.max(1, Math.floor((sheet.w - 2 * PAGE_MARGIN_MM + GAP_MM) / cell.w));
  const rows = Math.max(
    1,
    Math.floor((sheet.h - PAGE_MARGIN_MM - HEAD_MM - PAGE_MARGIN_MM + GAP_MM) / cell.h),
  );
  const places = Array.from({ length: cols * rows }, (_, i) => ({
    x: PAGE_MARGIN_MM + (i % cols) * cell.w,
    y: PAGE_MARGIN_MM + HEAD_MM + Math.floor(i / cols) * cell.h,
  }));
  return { cols, rows, perSheet: cols * rows, places };
}
