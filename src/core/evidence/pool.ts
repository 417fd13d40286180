import normalCdf from '@stdlib/stats-base-dists-normal-cdf';
import { type Chance, chanceFrom } from '../random/index.ts';
import { type EvidenceRow, THINGS, type Thing } from './row.ts';

/** Pairs of things whose effect together is kept apart. */
const PAIRS: readonly (readonly [Thing, Thing])[] = [
  ['method', 'medium'],
  ['medium', 'substrate'],
  ['medium', 'donor'],
  ['method', 'substrate'],
  ['donor', 'printer'],
  ['substrate', 'preparation'],
];
const NUMBERS = ['dry', 'dry2', 'coat', 'rounds'] as const;
type Numbers = (typeof NUMBERS)[number];

/** What can be asked about: like a row, without what came of it. */
export type Made = Pick<EvidenceRow, 'used' | 'dry' | 'coat' | 'rounds'> & {
  readonly varied?: EvidenceRow['varied'];
};

/** One draw: an overall level, an effect for each level of each block, and what a level of which nothing is known may add. */
interface Draw {
  readonly middle: number;
  readonly effects: ReadonlyMap<string, Float64Array>;
  readonly spreads: ReadonlyMap<string, number>;
  readonly numbers: Readonly<Record<Numbers, number>>;
  readonly sd: number;
}

/** What a workshop's trials say together, drawn from. */
export interface Pool {
  readonly rows: readonly EvidenceRow[];
  /** Places of the levels of each block, by block and level. */
  readonly places: ReadonlyMap<string, ReadonlyMap<string, number>>;
  /** How much lands of what works, on the logit of its share. */
  readonly good: readonly Draw[];
  /** Whether it works at all, on the probit. */
  readonly works: readonly Draw[];
}

const SWEEPS = 240;
const WARM_UP = 80;
const KEPT = 120;

/** A logit of a share of a hundred whose ends lie half a hundredth inside. */
const logitOf = (value: number): number => {
  const share = (Math.min(100, Math.max(0, value)) / 100) * 0.99 + 0.005;
  return Math.log(share / (1 - share));
};
const shareOf = (x: number): number =>
  100 * Math.min(1, Math.max(0, (1 / (1 + Math.exp(-x)) - 0.005) / 0.99));

/** The level of a row in each block. */
function levelsOf(row: Made, trial?: string): [block: string, level: string][] {
  const id = (thing: Thing) => row.used[thing].id;
  return [
    ...(trial === undefined ? [] : [['trial', trial] as [string, string]]),
    ...THINGS.map((t): [string, string] => [t, id(t)]),
    ...PAIRS.map(([a, b]): [string, string] => [`${a} ${b}`, `${id(a)} ${id(b)}`]),
    // What else was varied counts within its method.
    ...(row.varied ?? []).map((x): [string, string] => [`varied ${x.key}`, `${id('method')} ${x.level}`]),
  ];
}

const numbersOf = (row: Made): Record<Numbers, number> => ({
  dry: row.dry,
  dry2: row.dry * row.dry,
  coat: row.coat + 1,
  rounds: (row.rounds - 2) / 2,
});

/** Patches that were made alike: how many, and the sum of their values. */
interface Cell {
  readonly n: number;
  readonly sum: number;
}

/**
 * The evidence of a workshop by partial pooling: method, medium, donor sheet, substrate, preparation, printer, some pairs of
 * them, whatever else was varied, and trials, each a random effect whose spread is learnt (half-t: Gelman 2006,
 * Bayesian Analysis 1:515; drawn as Huang & Wand 2013, 8:439), so that what was seen once is drawn towards what is usual and what was seen often is not.
 * What lands of what works on its logit; whether it works by a probit with latent values (Albert & Chib 1993), those of
 * like patches drawn as one sum.
 *
 * @example poolOf([]).good.length; // => 0
 */
export function poolOf(rows: readonly EvidenceRow[]): Pool {
  const places = new Map<string, Map<string, number>>();
  const place = (block: string, level: string): number => {
    const own = places.get(block) ?? new Map<string, number>();
    places.set(block, own);
    if (!own.has(level)) own.set(level, own.size);
    return own.get(level)!;
  };
  const known = rows.map(row => new Map(levelsOf(row, row.trial).map(([b, l]) => [b, place(b, l)])));
  const blocks = [...places.keys()];
  const landed = rows.map((row): Cell => {
    const values = row.landed.map(logitOf);
    return { n: values.length, sum: values.reduce((a, b) => a + b, 0) };
  });
  const within = rows.reduce((total, row) => {
    const values = row.landed.map(logitOf);
    const mean = values.reduce((a, b) => a + b, 0) / (values.length || 1);
    return total + values.reduce((s, x) => s + (x - mean) ** 2, 0);
  }, 0);
  const tried = rows.map(r => r.landed.length + r.failed);
  const numbers = rows.map(numbersOf);
  const drawn = {
    blocks: blocks.map(name => ({
      name,
      size: places.get(name)!.size,
      levels: Int32Array.from(known, own => own.get(name) ?? places.get(name)!.size),
    })),
    numbers: NUMBERS.map(k => Float64Array.from(numbers, n => n[k])),
  };
  return {
    rows,
    places,
    good: landed.some(c => c.n) ? drawsOf({ ...drawn, cells: landed, within }) : [],
    works: tried.some(n => n)
      ? drawsOf({
          ...drawn,
          cells: tried.map(n => ({ n, sum: 0 })),
          worked: rows.map(r => r.landed.length),
        })
      : [],
  };
}

/** One kind of thing: which level of it each row has; its size where it has none. */
interface Block {
  readonly name: string;
  readonly size: number;
  readonly levels: Int32Array;
}

interface Sampling {
  readonly blocks: readonly Block[];
  /** The numbers of each row, one array each. */
  readonly numbers: readonly Float64Array[];
  readonly cells: readonly Cell[];
  /** Squares about the means of like patches. */
  readonly within?: number;
  /** How many of each cell worked: then values are latent. */
  readonly worked?: readonly number[];
}

/** Spread of an effect beforehand, on the scale it is drawn on: half a t distribution of so many degrees of freedom, so that one trial alone does not make anything possible. */
const SPREAD = 0.4;
const THING = { spread: SPREAD, tails: 6 };
/** What two things do together is less than what they do (heredity: Chipman 1996, Canad. J. Statist. 24:17). */
const PAIR = { spread: 0.2, tails: 6 };
/** A day, a hand and an air shift a whole trial as much as all its things together may: a trial has one of each, and must not be taken for them. */
const TRIALS = { spread: 1, tails: 3 };
const priorOf = (block: string) =>
  block === 'trial' ? TRIALS : PAIRS.some(([a, b]) => block === `${a} ${b}`) ? PAIR : THING;
/** What is held of the chance to work beforehand: about five in six, as a probit. */
const USUALLY_WORKS = { mean: 1, sd: 1 };

function drawsOf({ blocks, numbers: columns, cells, within = 0, worked }: Sampling): Draw[] {
  const chance = chanceFrom(worked ? 41 : 40);
  const size = cells.length;
  const n = Float64Array.from(cells, c => c.n);
  const sums = Float64Array.from(cells, c => c.sum);
  const total = n.reduce((a, b) => a + b, 0);
  const effects = blocks.map(b => new Float64Array(b.size));
  const counts = blocks.map(({ size: levels, levels: of }) => {
    const own = new Float64Array(levels);
    for (let i = 0; i < size; i++) if (of[i] < levels) own[of[i]] += n[i];
    return own;
  });
  const priors = blocks.map(b => priorOf(b.name));
  const variance = priors.map(p => p.spread ** 2);
  const helper = blocks.map(() => 1);
  const numbers = columns.map(() => 0);
  const squares = columns.map(x => x.reduce((sum, v, i) => sum + n[i] * v * v, 0));
  let middle = worked ? USUALLY_WORKS.mean : sums.reduce((a, b) => a + b, 0) / total;
  let scatter = 1;
  /** What is left of each cell's sum once all is taken off. */
  const rest = Float64Array.from(sums, (sum, i) => sum - n[i] * middle);
  const out: Draw[] = [];
  const each = Math.floor(SWEEPS / KEPT);
  for (let sweep = -WARM_UP; sweep < SWEEPS; sweep++) {
    if (worked)
      for (let i = 0; i < size; i++) {
        if (!n[i]) continue;
        const next = latent((sums[i] - rest[i]) / n[i], worked[i], n[i] - worked[i], chance);
        rest[i] += next - sums[i];
        sums[i] = next;
      }
    // The middle of all.
    const weight = worked ? scatter / USUALLY_WORKS.sd ** 2 : 1e-6;
    let left = weight * (worked ? USUALLY_WORKS.mean : 0) + total * middle;
    for (let i = 0; i < size; i++) left += rest[i];
    const moved = left / (total + weight) + Math.sqrt(scatter / (total + weight)) * chance.normal() - middle;
    for (let i = 0; i < size; i++) rest[i] -= n[i] * moved;
    middle += moved;
    // Each block: its levels do not overlap, so they are drawn by themselves.
    for (let b = 0; b < blocks.length; b++) {
      // The last place is for rows that have none of it.
      const own = effects[b];
      const count = blocks[b].size;
      const { levels } = blocks[b];
      const sum = new Float64Array(count + 1);
      for (let i = 0; i < size; i++) sum[levels[i]] += rest[i];
      const change = new Float64Array(count + 1);
      let spread = 0;
      for (let l = 0; l < count; l++) {
        const w = counts[b][l] + scatter / variance[b];
        const next = (sum[l] + counts[b][l] * own[l]) / w + Math.sqrt(scatter / w) * chance.normal();
        change[l] = next - own[l];
        own[l] = next;
        spread += next * next;
      }
      for (let i = 0; i < size; i++) rest[i] -= n[i] * change[levels[i]];
      const { spread: usual, tails } = priors[b];
      variance[b] = Math.max(1e-6, (spread / 2 + tails / helper[b]) / chance.gamma((count + tails) / 2));
      helper[b] = (tails / variance[b] + 1 / usual ** 2) / chance.gamma((tails + 1) / 2);
    }
    for (let k = 0; k < numbers.length; k++) {
      const x = columns[k];
      let sum = squares[k] * numbers[k];
      for (let i = 0; i < size; i++) sum += x[i] * rest[i];
      const w = squares[k] + scatter / SPREAD ** 2;
      const next = sum / w + Math.sqrt(scatter / w) * chance.normal();
      const step = next - numbers[k];
      for (let i = 0; i < size; i++) rest[i] -= n[i] * step * x[i];
      numbers[k] = next;
    }
    if (!worked) {
      let rss = within;
      for (let i = 0; i < size; i++) if (n[i]) rss += rest[i] ** 2 / n[i];
      scatter = (rss + 0.5) / 2 / chance.gamma((total + 2) / 2);
    }
    if (sweep >= 0 && sweep % each === 0 && out.length < KEPT)
      out.push({
        middle,
        effects: new Map(blocks.map((b, i) => [b.name, effects[i].slice()])),
        spreads: new Map(blocks.map((b, i) => [b.name, Math.sqrt(variance[i])])),
        numbers: Object.fromEntries(NUMBERS.map((k, i) => [k, numbers[i]])) as Record<Numbers, number>,
        sd: Math.sqrt(scatter),
      });
  }
  return out;
}

/** The density of a standard normal over what lies below, φ/Φ (the inverse of Mills' ratio), from a table. */
const RATIOS = (() => {
  const [from, step, count] = [-8, 0.01, 1601];
  const table = Float64Array.from({ length: count }, (_, i) => {
    const x = from + step * i;
    return Math.exp(-0.5 * x * x) / Math.sqrt(2 * Math.PI) / Math.max(1e-300, normalCdf(x, 0, 1));
  });
  return (x: number): number => {
    const at = Math.min(count - 2, Math.max(0, (x - from) / step));
    const i = Math.floor(at);
    return table[i] + (at - i) * (table[i + 1] - table[i]);
  };
})();

/** The sum of latent values of patches about one mean: those that worked above nought, those that failed below; drawn as a normal of their mean and variance. */
function latent(mean: number, worked: number, failed: number, chance: Chance): number {
  let [sum, variance] = [0, 0];
  if (worked) {
    const ratio = RATIOS(mean);
    sum += worked * (mean + ratio);
    variance += worked * Math.max(0.01, 1 - ratio * (ratio + mean));
  }
  if (failed) {
    const ratio = RATIOS(-mean);
    sum += failed * (mean - ratio);
    variance += failed * Math.max(0.01, 1 - ratio * (ratio - mean));
  }
  return variance ? sum + Math.sqrt(variance) * chance.normal() : 0;
}

/** What is to be expected of something in each draw, in a trial that has not been made. */
export interface Foreseen {
  /** Chance to work, in each draw. */
  readonly works: readonly number[];
  /** What lands where it works, %, in each draw. */
  readonly lands: readonly number[];
}

/**
 * What is to be expected of a way of making: in each draw its effects, and for what was never seen one drawn from the spread
 * of its kind.
 *
 * @param newTrial whether what a further trial shifts is in it.
 */
export function foresee(pool: Pool, made: Made, newTrial = true): Foreseen {
  const chance = chanceFrom(43);
  const levels = levelsOf(made);
  const numbers = numbersOf(made);
  const of = (draw: Draw): number => {
    let v = draw.middle;
    for (const [block, level] of levels) {
      const at = pool.places.get(block)?.get(level);
      v +=
        at === undefined
          ? (draw.spreads.get(block) ?? SPREAD) * chance.normal()
          : draw.effects.get(block)![at];
    }
    for (const k of NUMBERS) v += draw.numbers[k] * numbers[k];
    return newTrial ? v + (draw.spreads.get('trial') ?? SPREAD) * chance.normal() : v;
  };
  return {
    works: pool.works.map(d => normalCdf(of(d), 0, 1)),
    lands: pool.good.map(d => shareOf(of(d))),
  };
}

/** By how much each block makes what is foreseen uncertain: variances of its effect over the draws, on the scale they are drawn on. */
export function unsureOf(pool: Pool, made: Made): ReadonlyMap<string, number> {
  const out = new Map<string, number>();
  for (const draws of [pool.good, pool.works])
    for (const [block, level] of levelsOf(made)) {
      const at = pool.places.get(block)?.get(level);
      const values = draws.map(d => (at === undefined ? 0 : d.effects.get(block)![at]));
      const mean = values.reduce((a, b) => a + b, 0) / (values.length || 1);
      const own =
        at === undefined
          ? draws.reduce((sum, d) => sum + (d.spreads.get(block) ?? SPREAD) ** 2, 0) / (draws.length || 1)
          : values.reduce((sum, v) => sum + (v - mean) ** 2, 0) / (values.length || 1);
      out.set(block, (out.get(block) ?? 0) + own);
    }
  return out;
}
