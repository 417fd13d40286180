import type { VectorPath } from '../artwork/index.ts';
import type { Scene } from '../print/index.ts';
import { mm as length, partsOf, type System, say, type Words, write } from '../say/index.ts';

/** One thing on a page; lengths in mm from the page's top left, y down; greys are sRGB 0–255. */
export type Mark =
  | { readonly kind: 'shape'; readonly points: readonly (readonly [number, number])[]; readonly grey: number }
  | {
      readonly kind: 'line';
      readonly from: readonly [number, number];
      readonly to: readonly [number, number];
      readonly mm: number;
      readonly grey: number;
    }
  | {
      readonly kind: 'text';
      readonly x: number;
      /** The baseline. */
      readonly y: number;
      /** Height of capitals. */
      readonly mm: number;
      readonly words: Words;
      readonly bold: boolean;
      /** Set smaller when it would run wider than this. */
      readonly most: number;
      readonly grey: number;
    }
  | {
      readonly kind: 'image';
      readonly x: number;
      readonly y: number;
      readonly w: number;
      readonly h: number;
      readonly key: string;
    }
  | {
      /** Outlines in mm from (x, y), cut off at its box. */
      readonly kind: 'drawing';
      readonly x: number;
      readonly y: number;
      readonly w: number;
      readonly h: number;
      readonly paths: readonly VectorPath[];
    };

/** A page as data: what the PDF writer prints and the preview shows. */
export interface Page {
  readonly w: number;
  readonly h: number;
  readonly marks: readonly Mark[];
  /** What a mm has to be drawn as so that this printer prints a mm, across and down. */
  readonly correct: { readonly x: number; readonly y: number };
}

/** Pages that go into one file. `images`: PNG or JPEG bytes by key. */
export interface Sheets {
  readonly title: string;
  readonly pages: readonly Page[];
  readonly images?: Readonly<Record<string, Uint8Array>>;
}

/** Sheets with the measures in their words as a maker reads them; where words get longer they are set that much smaller. */
export function inMeasures<T extends Sheets>(sheets: T, system: System): T {
  const read = (mark: Mark): Mark => {
    if (mark.kind !== 'text') return mark;
    const words = write(mark.words, { system });
    return { ...mark, words, mm: mark.mm * Math.min(1, write(mark.words).length / words.length) };
  };
  return { ...sheets, pages: sheets.pages.map(page => ({ ...page, marks: page.marks.map(read) })) };
}

export const TRUE_SIZE = { x: 1, y: 1 } as const;
export const A4 = { w: 210, h: 297 };
export const LETTER = { w: 215.9, h: 279.4 };

export const text = (
  words: Words,
  x: number,
  y: number,
  mm: number,
  options: { readonly bold?: boolean; readonly most?: number; readonly grey?: number } = {},
): Mark => ({
  kind: 'text',
  words,
  x,
  y,
  mm,
  bold: options.bold ?? false,
  most: options.most ?? 200,
  grey: options.grey ?? 0,
});

/** Width of a letter on average, as a share of the height of capitals, rather too wide than too narrow. */
const LETTER_WIDTH = 0.76;

/** Words in lines that run no wider than `most` mm at this height of capitals. */
export function wrapped(words: Words, mm: number, most: number): Words[] {
  const room = Math.max(1, Math.floor(most / (mm * LETTER_WIDTH)));
  const lines: Words[] = [];
  let used = 0;
  for (const word of wordsIn(words)) {
    const long = write(word).length;
    if (lines.length && used + 1 + long <= room) {
      lines[lines.length - 1] = say`${lines[lines.length - 1]} ${word}`;
      used += 1 + long;
    } else {
      lines.push(word);
      used = long;
    }
  }
  return lines;
}

/** A text word by word; a quantity is not broken, nor what stands close to it. */
function wordsIn(words: Words): Words[] {
  const out: Words[] = [];
  let isOpen = false;
  const add = (piece: Words) => {
    if (isOpen) out[out.length - 1] = say`${out[out.length - 1]}${piece}`;
    else out.push(piece);
    isOpen = true;
  };
  for (const part of partsOf(words)) {
    const texts = typeof part === 'string' ? part : 'name' in part ? part.name : undefined;
    if (texts === undefined) add(part);
    else
      for (const piece of texts.split(/(\s+)/)) {
        if (/^\s+$/.test(piece)) isOpen = false;
        else if (piece) add(piece);
      }
  }
  return out;
}

export const line = (ax: number, ay: number, bx: number, by: number, mm = 0.15, grey = 0): Mark => ({
  kind: 'line',
  from: [ax, ay],
  to: [bx, by],
  mm,
  grey,
});

export const box = (x: number, y: number, w: number, h: number, mm = 0.15, grey = 0): Mark[] => [
  line(x, y, x + w, y, mm, grey),
  line(x + w, y, x + w, y + h, mm, grey),
  line(x + w, y + h, x, y + h, mm, grey),
  line(x, y + h, x, y, mm, grey),
];

/** A drawing with its top left at (x, y). */
export const scene = (drawing: Scene, x: number, y: number): Mark[] =>
  drawing.shapes.map(s => ({
    kind: 'shape',
    points: s.points.map(([px, py]) => [x + px, y + py] as const),
    grey: s.grey,
  }));

/** Marks at the corners of a piece, outside it, to cut along. */
export const cutMarks = (x: number, y: number, w: number, h: number): Mark[] =>
  [
    [x, y, -1, -1],
    [x + w, y, 1, -1],
    [x, y + h, -1, 1],
    [x + w, y + h, 1, 1],
  ].flatMap(([cx, cy, dx, dy]) => [
    line(cx + dx * 0.6, cy, cx + dx * 2.6, cy, 0.1, 77),
    line(cx, cy + dy * 0.6, cx, cy + dy * 2.6, 0.1, 77),
  ]);

/** Long enough to measure by: 100 mm, or 50 where the sheet has no room for more. */
const barLength = (room: number) => (room >= 100 ? 100 : 50);

/** A bar across that must measure 100 mm on paper (50 on a sheet with less `room`), with the words that say so. */
export function barAcross(x: number, y: number, room = Number.POSITIVE_INFINITY): Mark[] {
  const long = barLength(room);
  const words = say`${length(long)}: measure it. If it is not ${length(long)}, print again at 100 %, without "fit to page".`;
  const beside = room - long - 2;
  return [
    line(x, y, x + long, y, 0.3),
    ...[0, long / 2, long].map(at => line(x + at, y - 1.5, x + at, y + 1.5, 0.2)),
    text(words, x + long + 2, y + 0.8, 2, { most: Math.min(78, Math.max(30, beside)) }),
  ];
}

/** A bar down that must measure 100 mm on paper (50 on a sheet with less `room`). */
export function barDown(x: number, y: number, room = Number.POSITIVE_INFINITY): Mark[] {
  const long = barLength(room);
  return [
    line(x, y, x, y + long, 0.3),
    ...[0, long / 2, long].map(at => line(x - 1.5, y + at, x + 1.5, y + at, 0.2)),
  ];
}
