import {
  differenceCiede2000,
  modeLab65,
  modeLrgb,
  modeRgb,
  modeXyz65,
  useMode as registerSpace,
} from 'culori/fn';
import type { Sorted } from './classify.ts';
import type { Cell } from './ink.ts';
import { middle } from './middle.ts';
import { SORT_PX } from './px.ts';

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
/** An ink's own surface sends back no more than this of the light, as white as it came. */
const MOST_SURFACE = 0.02;
const LIGHT_ERROR = 0.006;

/**
 * Tone over even cells of dry solids that landed: what is seen, with the veil over it taken off, against ink on this
 * ground, R · B. Single pixels would count noise and grain as colour. Nothing where too little of
 * it lies open to tell. `black`: what the light next to black may be off by, as a share of white.
 */
export function toneOf(sorted: Sorted, black = 0): ToneReading | null {
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
  const found = neighbours(
    solids.filter(c => sorted.veil[c.at] <= open),
    sorted.w,
  ).map(cells => {
    const mean = (of: (cell: Cell) => number) => cells.reduce((sum, c) => sum + of(c), 0) / cells.length;
    const veil = mean(c => sorted.veil[c.at]);
    // White light is paper's, or the ink's own surface's; on a ground without a colour of its own a little less ink looks
    // like it as well. Even odds of each.
    const tells = Math.min(1, tintOf(CHANNELS.map(k => mean(c => c.base[k]))) / TELLS_PAPER);
    const thin = veil < UNVEILED ? (veil * (1 - tells)) / 2 : 0;
    const surface = (Math.min(veil, MOST_SURFACE) / 2) * tells;
    const h = veil - thin - surface;
    const got = CHANNELS.map(k => Math.max(0, (mean(c => c.seen[k]) - h) / (1 - h)));
    const expected = CHANNELS.map(k => mean(c => c.base[k] * (1 - c.a[k])));
    const error = Math.hypot(LIGHT_ERROR, black) + VEIL_ERROR * h;
    const lighter = got.map(v => v + error);
    const darker = got.map(v => Math.max(0, v - error));
    return {
      ...differ(expected, got),
      error: differ(darker, lighter).tone / 2,
      count: cells.length,
    };
  });
  const typical = (of: (f: (typeof found)[number]) => number) =>
    middle(found.flatMap(f => new Array<number>(f.count).fill(of(f))));
  return {
    tone: typical(f => f.tone),
    deltaL: typical(f => f.deltaL),
    deltaC: typical(f => f.deltaC),
    give: 0.5 + 1.645 * typical(f => f.error),
  };
}

const CHANNELS = [0, 1, 2] as const;
/** Cells in a square of this side, and of a coverage within a tenth, are looked at as one: noise is no colour. */
const TOGETHER_MM = 4;

/** Cells that lie together and should look alike. */
function neighbours(cells: readonly Cell[], w: number): Cell[][] {
  const side = TOGETHER_MM * SORT_PX;
  const groups = new Map<string, Cell[]>();
  for (const c of cells) {
    const key = `${Math.floor((c.at % w) / side)} ${Math.floor(c.at / w / side)} ${Math.round(c.cover * 10)}`;
    groups.set(key, [...(groups.get(key) ?? []), c]);
  }
  return [...groups.values()];
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
