import {
  differenceCiede2000,
  modeLab65,
  modeLrgb,
  modeRgb,
  modeXyz65,
  useMode as registerSpace,
} from 'culori/fn';
import type { Sorted } from './classify.ts';
import { middle } from './middle.ts';

registerSpace(modeRgb);
registerSpace(modeLrgb);
registerSpace(modeXyz65);
const toLab = registerSpace(modeLab65);
const difference = differenceCiede2000();

/** How far colour is off what the ink on this ground should be. */
export interface ToneReading {
  /** Median CIEDE2000. */
  readonly tone: number;
  /** Median difference of lightness L* and of chroma C* (seen less expected): below nought is darker, duller. */
  readonly deltaL: number;
  readonly deltaC: number;
  /** Half-width of a 90 % interval of `tone`. */
  readonly give: number;
}

/** Solids are darker than this. */
const SOLID_BELOW = 0.5;
/** Cells under less veil than this are looked at first; where there are too few, those under the least, up to the most. */
const UNVEILED = 0.1;
const MOST_VEIL = 0.45;
const LEAST_CELLS = 12;
/** What a veil of one leaves unsure in the light of what lies under it, and what flare and balance do in any case. */
const VEIL_ERROR = 0.12;
const LIGHT_ERROR = 0.006;

/**
 * Tone over even cells of half a millimetre of dry solids that landed: what is seen, with the veil over it taken off,
 * against ink on this ground, R · B. Single pixels would count noise and grain as colour. Nothing where too little of
 * it lies open to tell.
 */
export function toneOf(sorted: Sorted): ToneReading | null {
  const solids = sorted.cells.filter(
    c =>
      1 - c.cover < SOLID_BELOW &&
      sorted.odds[c.at] > 2 &&
      sorted.visible[c.at] &&
      sorted.veil[c.at] < MOST_VEIL,
  );
  if (solids.length < LEAST_CELLS) return null;
  const veils = solids.map(c => sorted.veil[c.at]);
  const open = veils.filter(h => h < UNVEILED).length >= LEAST_CELLS ? UNVEILED : middle(veils);
  const found = solids
    .filter(c => sorted.veil[c.at] <= open)
    .map(cell => {
      const veil = sorted.veil[cell.at];
      // On a ground without a colour of its own a little veil and a little less ink look alike: even odds of each.
      const tells = Math.min(1, tintOf(cell.base) / TELLS_PAPER);
      const h = veil < UNVEILED ? (veil * (1 + tells)) / 2 : veil;
      const got = cell.seen.map(v => Math.max(0, (v - h) / (1 - h)));
      const expected = cell.base.map((b, c) => b * (1 - cell.a[c]));
      const error = LIGHT_ERROR + VEIL_ERROR * h;
      return {
        ...differ(expected, got),
        error:
          (differ(
            expected,
            got.map(v => v + error),
          ).tone -
            differ(
              expected,
              got.map(v => Math.max(0, v - error)),
            ).tone) /
          2,
      };
    });
  return {
    tone: middle(found.map(f => f.tone)),
    deltaL: middle(found.map(f => f.deltaL)),
    deltaC: middle(found.map(f => f.deltaC)),
    give: 0.5 + 1.645 * Math.abs(middle(found.map(f => f.error))),
  };
}

/** How far a colour is from grey, in linear light. */
export function tintOf(colour: readonly number[]): number {
  const grey = (colour[0] + colour[1] + colour[2]) / 3;
  return Math.hypot(...colour.map(v => v - grey));
}
/** From this on a ground has enough colour to tell paper over it from thin ink. */
export const TELLS_PAPER = 0.08;

/**
 * CIEDE2000 and what it is made of, between two colours in linear light.
 *
 * @example differ([0.5, 0.5, 0.5], [0.5, 0.5, 0.5]).tone; // => 0
 */
export function differ(expected: readonly number[], seen: readonly number[]) {
  const [a, b] = [expected, seen].map(([r, g, bl]) => toLab({ mode: 'lrgb', r, g, b: bl })!);
  return {
    tone: difference(a, b),
    deltaL: b.l - a.l,
    deltaC: Math.hypot(b.a, b.b) - Math.hypot(a.a, a.b),
  };
}
