import type { Dimension, Kind, Quantity, Words } from './words.ts';

type More = Omit<Quantity, 'kind' | 'value'>;
const of =
  (kind: Kind) =>
  (value: number, more: More = {}): Quantity => ({ kind, value, ...more });

/** A length, mm: in a text a number that knows it. `by`: the other side of a size; `to`: the end of a range. */
export const mm = of('length');
/** The thickness of a coat, mm. */
export const thick = of('thickness');
/** A spot on a piece, mm². */
export const mm2 = of('spot');
/** An area of material, dm². */
export const dm2 = (value: number, more: More = {}): Quantity => ({
  kind: 'area',
  value,
  places: 1,
  ...more,
});
/** A volume, mL. */
export const mL = of('volume');
/** A weight, g. */
export const grams = of('weight');
/** A temperature, °C. */
export const celsius = of('temperature');
/** Relative humidity, %. */
export const humidity = of('humidity');
/** How long something lasts, minutes. */
export const minutes = of('span');
/** A part of a hundred. */
export const percent = of('share');
/** How sure something is, 0–1: never quite, and never not at all. */
export const sure = (chance: number, more: More = {}): Quantity => ({
  kind: 'sure',
  value: 100 * chance,
  ...more,
});

const to =
  (kind: Kind, places: number) =>
  (value: number, more: More = {}): Quantity => ({ kind, value, places, ...more });

/** Points of a hundred, whole ones. */
export const points = to('points', 0);
/** How much paper is left over what landed, 0–1. */
export const veil = to('veil', 2);
/** How far a colour is off, ΔE00. */
export const colourOff = to('colour', 1);
/** How often of ten. */
export const timesIn10 = to('tenths', 1);
/** Minutes of work, as they are counted. */
export const workMinutes = to('work', 1);

/**
 * A size, mm: one side of a square, both of anything else.
 *
 * @example sized({ w: 40, h: 40 }); // => { kind: 'length', value: 40 }
 */
export const sized = (
  size: number | { readonly w: number; readonly h: number },
  more: More = {},
): Quantity => {
  const { w, h } = typeof size === 'number' ? { w: size, h: size } : size;
  return mm(w, { ...(w === h ? {} : { by: h }), ...more });
};

/** Give or take so much of something. */
export const give = (words: Words, rests?: Words): Words =>
  typeof words === 'object' && 'kind' in words && words.kind !== 'give'
    ? { ...words, kind: 'give', of: words.kind, ...(rests ? { rests } : {}) }
    : words;

/** An empty line for a number that is written in by hand. */
export const blank = (kind: Dimension): Quantity => ({ kind, value: Number.NaN });

/** English words whose several is not the one with an s. */
const severalOf = (one: string): string =>
  /(s|x|z|ch|sh)$/.test(one) ? `${one}es` : /[^aeiou]y$/.test(one) ? `${one.slice(0, -1)}ies` : `${one}s`;

/**
 * So many of something.
 *
 * @param several the word for several, where it is not made as usual.
 *
 * @example write(many(3, 'patch')); // => '3 patches'
 */
export const many = (value: number, one: string, several = severalOf(one)): Quantity => ({
  ...{ kind: 'count', value },
  noun: [one, several],
});

/**
 * A word that goes with one thing or with several: `is`, `are`.
 *
 * @example agree(1, 'is', 'are'); // => 'is'
 */
export const agree = (count: number, one: string, several: string): string => (count === 1 ? one : several);
