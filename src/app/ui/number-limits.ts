import type { NumberRange } from '../../core/shelf/index.ts';

/** What a field for a number takes, in the unit it is kept in. */
export type NumberLimit = NumberRange;

/** Every number that is asked for, by what it is; those of the shelf have the ranges of its items. There is no field without one. */
export const NUMBER_LIMITS = {
  roomC: { least: -10, most: 50 },
  roomF: { least: 14, most: 122 },
  humidity: { least: 1, most: 99 },
  coatMm: { least: 0.05, most: 5 },
  dryHours: { least: 0.001, most: 240 },
  rounds: { least: 1, most: 6, whole: true },
  copyAgeH: { least: 0.1, most: 20_000 },
  boardMm: { least: 20, most: 3000 },
  patchMm: { least: 20, most: 1000 },
  gapMm: { least: 0, most: 500 },
  placeMm: { least: 0, most: 5000 },
  pictureMm: { least: 5, most: 2000 },
  marginMm: { least: 0, most: 500 },
  barMm: { least: 50, most: 150 },
  stockMm: { least: 1, most: 10_000 },
  cutMm: { least: 0, most: 100 },
  cutShare: { least: 0, most: 95 },
  degrees: { least: -45, most: 45 },
  tolerance: { least: 1, most: 80 },
  copies: { least: 0, most: 200, whole: true },
  repeats: { least: 1, most: 10, whole: true },
  budget: { least: 2, most: 400, whole: true },
  oven: { least: 1, most: 100, whole: true },
  load: { least: 2, most: 100, whole: true },
  points: { least: 0.1, most: 60 },
  lead: { least: 0.5, most: 100 },
  pieces: { least: 1, most: 400, whole: true },
  countedPieces: { least: 0, most: 10_000, whole: true },
  wanted: { least: 1, most: 400, whole: true },
  minutes: { least: 0, most: 100_000 },
  wash: { least: 0, most: 60 },
  holds: { least: 0, most: 400, whole: true },
  helpers: { least: 0, most: 5, whole: true },
  measure: { least: -1000, most: 100_000 },
  grams: { least: 0, most: 10_000, optional: true },
} as const satisfies Readonly<Record<string, NumberLimit>>;
export type NumberLimitName = keyof typeof NUMBER_LIMITS;

/** What was typed: a number to be kept, nothing, or why it is not kept. */
export type Typed =
  | { readonly is: 'number'; readonly value: number }
  | { readonly is: 'empty' }
  | { readonly is: 'wrong'; readonly say: string };

const rounded = (value: number) => Number(value.toPrecision(6));
const shown = (value: number) => String(rounded(value)).replace('-', '−');

/**
 * What was typed into a field for a number. Point and comma are both the decimal sign, whatever the browser's language.
 * What is no number or not allowed is said, in the unit of the field, and not kept.
 *
 * @param show the number as the field shows it, from the one that is kept; `keep` the other way.
 *
 * @example readTyped('0,4', { least: 0, most: 5 }); // => { is: 'number', value: 0.4 }
 * @example readTyped('9999', { least: 0, most: 5 }); // => { is: 'wrong', say: 'From 0 to 5.' }
 */
export function readTyped(
  text: string,
  limit: NumberLimit,
  show: (kept: number) => number = v => v,
  keep: (typed: number) => number = v => v,
): Typed {
  const plain = text.replace(/[\s\u00a0\u202f]/g, '').replace(/^[\u2212\u2013]/, '-');
  const range = `From ${shown(show(limit.least))} to ${shown(show(limit.most))}${limit.whole ? ', a whole number' : ''}.`;
  if (plain === '')
    return limit.optional ? { is: 'empty' } : { is: 'wrong', say: `Write a number. ${range}` };
  if (!/^-?(\d+([.,]\d*)?|[.,]\d+)$/.test(plain))
    return { is: 'wrong', say: `Write a number, in digits. ${range}` };
  const value = keep(Number(plain.replace(',', '.')));
  // The ends as they are shown, rounded, are within it.
  const isShown = (end: number) => keep(rounded(show(end))) === value;
  const isIn = (value >= limit.least && value <= limit.most) || isShown(limit.least) || isShown(limit.most);
  const isWhole = !limit.whole || Number.isInteger(value);
  if (!isIn || !isWhole) return { is: 'wrong', say: range };
  return { is: 'number', value };
}
