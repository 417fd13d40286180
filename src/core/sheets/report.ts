import { say, type Words } from '../say/index.ts';
import type { TrialPlan } from '../trial/index.ts';
import { type Flow, flow, LEFT, WIDE } from './flow.ts';
import { mapSheets } from './labels.ts';
import { line, type Sheets, text } from './page.ts';

/** Values of one thing beside each other, each with its 90 % interval. */
export interface ReportBars {
  readonly heading: string;
  readonly sentence: Words;
  /** The ends of the scale. */
  readonly scale: readonly [number, number];
  readonly rows: readonly {
    readonly name: Words;
    readonly value: number;
    readonly lo: number;
    readonly hi: number;
    readonly words: Words;
  }[];
}

/** What a report of a trial says. */
export interface Report {
  readonly plan: TrialPlan;
  /** What was asked, and how it was made: a line each. */
  readonly facts: readonly Words[];
  /** The decision and what goes with it. */
  readonly found: readonly Words[];
  readonly bars: readonly ReportBars[];
  /** The straightened photos, by the key of their image. */
  readonly photos: readonly {
    readonly key: string;
    readonly w: number;
    readonly h: number;
    readonly words: readonly [Words, Words];
  }[];
  readonly images: Readonly<Record<string, Uint8Array>>;
  /** The recipe that follows: a line a choice, then its steps. */
  readonly recipe?: {
    readonly title: string;
    readonly choices: readonly { readonly what: string; readonly choice: Words }[];
    readonly steps: readonly {
      readonly action: string;
      readonly instruction: Words;
      readonly cautions: readonly string[];
    }[];
  };
}

const HEAD = { bold: true, apart: 7 };
const NAME_W = 52;
const ROW = 6.4;
const PHOTOS_ACROSS = 5;
const GAP = 4;

/**
 * A trial on paper, for a folder or the bench's wall: the question, what was found, charts, photos, the recipe, and where
 * each patch lies.
 */
export function reportSheets({ plan, facts, found, bars, photos, images, recipe }: Report): Sheets {
  const f = flow();
  f.paragraph(plan.name, 5.2, { bold: true });
  f.space(1);
  if (plan.question) f.paragraph(plan.question, 3, { bold: true });
  for (const words of facts) f.paragraph(words, 2.4, { apart: 4.4 });
  f.space(4);
  f.paragraph('What it showed', 3.4, HEAD);
  for (const words of found) f.paragraph(words, 2.6);
  for (const b of bars) barsOn(f, b);
  if (photos.length) {
    f.space(4);
    photosOn(f, photos);
  }
  if (recipe) {
    f.space(4);
    f.room(30);
    f.paragraph(`Recipe: ${recipe.title}`, 3.4, HEAD);
    for (const { what, choice } of recipe.choices) f.paragraph(say`${what}: ${choice}`, 2.4, { apart: 4.4 });
    f.space(2);
    recipe.steps.forEach(({ action, instruction, cautions }, i) => {
      f.paragraph(say`${i + 1}. ${action}. ${instruction}`, 2.4, { apart: 4.4 });
      for (const caution of cautions) f.paragraph(`! ${caution}`, 2.2, { x: LEFT + 6, bold: true });
    });
  }
  return {
    title: `${plan.name}: report`,
    pages: [...f.pages(plan.name), ...mapSheets(plan, 'front').pages],
    images,
  };
}

const square = (x: number, y: number, half: number) =>
  [
    [x - half, y - half],
    [x + half, y - half],
    [x + half, y + half],
    [x - half, y + half],
  ] as const;

/** A dot a level on one scale, its interval as a line, its value in words; told apart by their places, not by colour. */
function barsOn(f: Flow, { heading, sentence, scale, rows }: ReportBars): void {
  f.space(3);
  f.room(18 + ROW * rows.length);
  f.paragraph(heading, 2.8, { bold: true });
  f.paragraph(sentence, 2.4, { apart: 4.4 });
  const from = LEFT + NAME_W;
  const room = WIDE - NAME_W - 34;
  const at = (v: number) =>
    from + room * Math.min(1, Math.max(0, (v - scale[0]) / Math.max(1e-9, scale[1] - scale[0])));
  for (const { name, value, lo, hi, words } of rows) {
    const y = f.y();
    f.put(text(name, LEFT, y, 2.3, { most: NAME_W - 3 }));
    f.put(line(from, y - 1.1, from + room, y - 1.1, 0.1, 190));
    f.put(line(at(lo), y - 1.1, at(hi), y - 1.1, 0.7, 60));
    f.put({ kind: 'shape', grey: 0, points: square(at(value), y - 1.1, 1) });
    f.put(text(words, from + room + 3, y, 2.1, { most: 31 }));
    f.space(ROW);
  }
  f.put(text(String(scale[0]), from, f.y() - 1, 1.9, { most: 12, grey: 90 }));
  f.put(text(String(scale[1]), from + room - 6, f.y() - 1, 1.9, { most: 12, grey: 90 }));
  f.space(4);
}

/** The photos in rows, at one scale. */
function photosOn(f: Flow, photos: Report['photos']): void {
  const widest = Math.max(...photos.map(p => p.w));
  const scale = Math.min(1, (WIDE - (PHOTOS_ACROSS - 1) * GAP) / PHOTOS_ACROSS / widest);
  const tall = Math.max(...photos.map(p => p.h)) * scale;
  f.room(14 + tall);
  f.paragraph('The patches', 3.4, HEAD);
  for (let i = 0; i < photos.length; i += PHOTOS_ACROSS) {
    f.room(tall + 10);
    const y = f.y() - 3;
    photos.slice(i, i + PHOTOS_ACROSS).forEach(({ key, w, h, words }, k) => {
      const x = LEFT + k * (widest * scale + GAP);
      f.put({ kind: 'image', x, y, w: w * scale, h: h * scale, key });
      words.forEach((one, r) => {
        f.put(text(one, x, y + h * scale + 3.2 + r * 3.2, 1.8, { bold: r === 0, most: widest * scale }));
      });
    });
    f.space(tall + 11);
  }
}
