import {
  converter,
  modeHsl,
  modeLab65,
  modeLrgb,
  modeRgb,
  modeXyz65,
  parse,
  useMode as register,
} from 'culori/fn';
import { bad, good, type Outcome } from '../outcome/index.ts';

for (const mode of [modeRgb, modeHsl, modeLrgb, modeXyz65, modeLab65]) register(mode);
const toLinear = converter('lrgb');
const toRgb = converter('rgb');
const toLab = converter('lab65');

type Linear = readonly [number, number, number];
const inside = (v: number) => Math.min(1, Math.max(0, v));

/**
 * A colour written as CSS or hex (`#c9a87a`, `tan`, `rgb(201 168 122)`) as linear-light RGB, 0–1.
 *
 * @example colourFrom('#ffffff').value; // => [1, 1, 1]
 */
export function colourFrom(words: string): Outcome<[number, number, number]> {
  const parsed = parse(words.trim());
  if (!parsed)
    return bad('colour', `“${words}” is not a colour.`, 'Write it like #c9a87a, tan or rgb(201 168 122).');
  const { r, g, b } = toLinear(parsed);
  return good([inside(r), inside(g), inside(b)]);
}

/**
 * Linear-light RGB as `#rrggbb` for showing.
 *
 * @example hexOf([1, 0, 0]); // => '#ff0000'
 */
export function hexOf([r, g, b]: Linear): string {
  const c = toRgb({ mode: 'lrgb', r, g, b });
  const two = (v: number) =>
    Math.round(inside(v) * 255)
      .toString(16)
      .padStart(2, '0');
  return `#${two(c.r)}${two(c.g)}${two(c.b)}`;
}

/**
 * Linear-light RGB as CIE L*a*b* (D65).
 *
 * @example Math.round(labOf([1, 1, 1]).l); // => 100
 */
export function labOf([r, g, b]: Linear): { l: number; a: number; b: number } {
  const lab = toLab({ mode: 'lrgb', r, g, b });
  return { l: lab.l, a: lab.a, b: lab.b };
}
