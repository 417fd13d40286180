import type { Words } from '../say/index.ts';
import { A4, type Mark, type Page, TRUE_SIZE, text, wrapped } from './page.ts';

/** Where running text stands on an A4 page, mm. */
export const LEFT = 15;
export const WIDE = A4.w - 2 * LEFT;
const FOOT = A4.h - 16;
const TOP = 18;

/** Text and drawings one below the other, over as many pages as they take. */
export interface Flow {
  /** The next baseline, mm from the page's top. */
  readonly y: () => number;
  /** Leaves so much space, mm. */
  readonly space: (mm: number) => void;
  /** Turns the page where less than this is left of it. */
  readonly room: (mm: number) => void;
  readonly put: (mark: Mark) => void;
  readonly paragraph: (
    words: Words,
    mm: number,
    how?: { readonly x?: number; readonly bold?: boolean; readonly apart?: number },
  ) => void;
  /** The pages, each with the name and its number at its foot. */
  readonly pages: (name: string) => Page[];
}

/** Begins a flow of A4 pages. */
export function flow(): Flow {
  const pages: Mark[][] = [[]];
  let y = TOP + 4;
  const room = (mm: number) => {
    if (y + mm <= FOOT) return;
    pages.push([]);
    y = TOP;
  };
  const put = (mark: Mark) => pages[pages.length - 1].push(mark);
  return {
    y: () => y,
    space: mm => {
      y += mm;
    },
    ...{ room, put },
    paragraph: (words, mm, { x = LEFT, bold = false, apart = mm * 1.75 } = {}) => {
      for (const one of wrapped(words, mm, LEFT + WIDE - x)) {
        room(apart);
        put(text(one, x, y, mm, { bold, most: LEFT + WIDE - x }));
        y += apart;
      }
    },
    pages: name =>
      pages.map((marks, i) => ({
        ...A4,
        correct: TRUE_SIZE,
        marks: [
          ...marks,
          text(`${name} · page ${i + 1} of ${pages.length}`, LEFT, A4.h - 9, 2, { most: WIDE, grey: 90 }),
        ],
      })),
  };
}
