import { type Chance, chanceFrom } from '../random/index.ts';
import { Draws, type Later, type More, type World } from './draws.ts';
import type { Case } from './fit.ts';
import { groupingOf } from './grouping.ts';
import { linkOf } from './link.ts';
import type { Model } from './model.ts';
import { backward, choleskyIn, forward, type Square, square } from './small.ts';

/** What an option is worth in a draw, and how sure it is that it is the best. */
export interface OptionChance {
  /** Chance that it is the best of all; where several are the same in a draw they share it. */
  readonly best: number;
  /** What is lost, on average, if it is taken and another is better; in the units of the response. */
  readonly loss: number;
  /** What it is expected to be worth, with nine in ten of the draws. */
  readonly value: number;
  readonly lo: number;
  readonly hi: number;
}

export interface Decision {
  /** For each option asked about, in their order. */
  readonly options: readonly OptionChance[];
  /** For each factor the chance of each of its levels to be in the best option, with the best of the others, and its loss. */
  readonly levels: readonly (readonly OptionChance[])[];
  /** For each factor the chance that it makes any difference. */
  readonly matters: readonly number[];
  /** For each pair of factors asked about the chance that one works differently with another level of the other. */
  readonly together: readonly number[];
  readonly draws: number;
  /** As many of the draws as were asked for, spread over all. */
  readonly worlds: readonly World[];
  /** What it would be with some patches more; only where worlds were asked for. */
  after?(more: readonly More[]): Later;
}

export interface DecisionAsk {
  readonly model: Model;
  readonly cases: readonly Case[];
  /** The combinations that can be taken. */
  readonly options: readonly (readonly number[])[];
  readonly better: 'high' | 'low';
  readonly bounds?: readonly [number, number] | undefined;
  /** What worked and what failed, and what one that failed is worth; nothing where failing has no meaning. */
  readonly failure?:
    | {
        readonly cases: readonly { readonly levels: readonly number[]; readonly failed: boolean }[];
        readonly worth: number;
      }
    | undefined;
  readonly draws?: number;
  /** Draws that are let go before any counts. */
  readonly warmUp?: number;
  /** How many draws are to be handed out whole. */
  readonly worlds?: number;
  readonly seed?: number;
}

/** Prior of the size of effects, in standard deviations of the scatter: a Cauchy of this scale (Rouder et al. 2012, "medium"). */
const SIZE = 0.5;
/** The same of what boards, strips and loads shift. */
const SHIFT = 1;
/** Prior chance that a factor makes a difference. */
const MATTERS = 0.9;
const DRAWS = 4000;
const WARM_UP = 400;
/** So many draws are kept whole. */
const KEPT = 2000;

/** One block of columns with effects of its own size: a factor, a pair of factors, or what patches share. */
interface Block {
  readonly from: number;
  readonly to: number;
  readonly scale: number;
  readonly always: boolean;
}

/**
 * How sure a choice is, by draws from a posterior: the effects of each factor are normal with a size of their own whose
 * prior is a Cauchy, and with even chances there are none at all (Rouder, Morey, Speckman & Province 2012, J. Math.
 * Psychol. 56:356; spike and slab, George & McCulloch 1993). So a lucky winner is drawn back, and looking early and often
 * does not cheat: it is a posterior. Values on a scale with ends are drawn on its logit, so that none leaves it. Drawn by
 * Gibbs sampling of blocks.
 */
export function decide(ask: DecisionAsk): Decision {
  const { model, cases, options, better, bounds, failure } = ask;
  const draws = ask.draws ?? DRAWS;
  const chance = chanceFrom(ask.seed ?? 20_261_126);
  const link = linkOf(bounds);
  const rows = contrasts(model);
  const shares = cases[0]?.shares?.length ?? 0;
  const all = Array.from({ length: shares }, (_, k) => groupingOf(cases.map(c => c.shares![k])));
  const told = all.flatMap((g, k) => (g.levels > 1 && g.levels < cases.length ? [k] : []));
  const groups = told.map(k => all[k]);
  const blocks: Block[] = [];
  let width = 1;
  for (const size of rows.sizes) {
    const isControl = model.control === true && blocks.length === rows.sizes.length - 1;
    blocks.push({ from: width, to: width + size, scale: isControl ? SHIFT : SIZE, always: isControl });
    width += size;
  }
  for (const g of groups) {
    blocks.push({ from: width, to: width + g.levels, scale: SHIFT, always: true });
    width += g.levels;
  }
  const design = cases.map((c, i) => {
    const row = new Float64Array(width);
    row.set(rows.of(c.levels));
    let at = rows.width;
    for (const g of groups) {
      row[at + g.of[i]] = 1;
      at += g.levels;
    }
    return row;
  });
  const values = cases.map(c => link.to(c.value));
  const gibbs = new Gibbs(design, values, blocks, chance);
  const flat = new Float64Array(options.length * rows.width);
  options.forEach((o, i) => {
    flat.set(rows.of(o), i * rows.width);
  });
  const worth = failure ? failure.worth : 0;
  const failing =
    failure && drawsOfFailure(failure.cases, { ...model, pairs: [], control: false }, options, chance);
  const levelRows = model.counts.map((count, f) =>
    Array.from({ length: count }, (_, l) => options.flatMap((o, i) => (o[f] === l ? [i] : []))),
  );
  const tally = new Tally(options.length, draws, better);
  const byLevel = levelRows.map(rowsOf => new Tally(rowsOf.length, draws, better));
  const matters = model.counts.map(() => 0);
  const partners = model.counts.map((_, f) => [
    f,
    ...model.pairs.flatMap(([x, y], k) => (x === f || y === f ? [model.counts.length + k] : [])),
  ]);
  const together = model.pairs.map(() => 0);
  const { beta } = gibbs;
  const wide = rows.width;
  const sign = better === 'high' ? 1 : -1;
  const drawn = new Float64Array(options.length);
  const tops = levelRows.map(rowsOf => new Float64Array(rowsOf.length));
  const kept = ask.worlds ? new Draws(link, levelRows, better) : undefined;
  const each = Math.ceil(draws / KEPT);
  const good = new Float64Array(options.length);
  for (let d = -(ask.warmUp ?? WARM_UP); d < draws; d++) {
    gibbs.step();
    if (d < 0) continue;
    const failed = failing?.();
    for (let i = 0; i < drawn.length; i++) {
      let v = 0;
      for (let j = 0, at = i * wide; j < wide; j++, at++) v += flat[at] * beta[j];
      good[i] = v;
      const fine = link.from(v);
      drawn[i] = failed ? (1 - failed[i]) * fine + failed[i] * worth : fine;
    }
    tally.add(drawn);
    for (let k = 0; k < together.length; k++) if (gibbs.isIn[model.counts.length + k]) together[k]++;
    const isIn = partners.map(own => own.some(k => gibbs.isIn[k]));
    if (kept && d % each === 0)
      kept.add({
        ...{ worth: drawn.slice(), good: good.slice(), failed, sd: gibbs.sd, matters: isIn },
        shared: Array.from({ length: shares }, (_, k) => {
          const at = told.indexOf(k);
          return at < 0 ? 0 : gibbs.spreadOf(rows.sizes.length + at);
        }),
      });
    for (let f = 0; f < tops.length; f++) {
      const own = levelRows[f];
      for (let l = 0; l < own.length; l++) {
        let top = Number.NaN;
        for (const i of own[l]) if (!(sign * drawn[i] <= sign * top)) top = drawn[i];
        tops[f][l] = top;
      }
      byLevel[f].add(tops[f]);
      if (isIn[f]) matters[f]++;
    }
  }
  return {
    options: tally.said(),
    levels: byLevel.map(t => t.said()),
    matters: matters.map(m => m / draws),
    together: together.map(m => m / draws),
    draws,
    worlds: kept?.worlds(ask.worlds ?? 0) ?? [],
    ...(kept ? { after: more => kept.after(more) } : {}),
  };
}

/** Keeps what options were worth in each draw. */
class Tally {
  private readonly best: Float64Array;
  private readonly loss: Float64Array;
  private readonly values: readonly Float64Array[];
  private draws = 0;
  constructor(
    private readonly count: number,
    most: number,
    private readonly better: 'high' | 'low',
  ) {
    this.best = new Float64Array(count);
    this.loss = new Float64Array(count);
    this.values = Array.from({ length: count }, () => new Float64Array(most));
  }

  add(drawn: Float64Array): void {
    const { count, best, loss, values } = this;
    const sign = this.better === 'high' ? 1 : -1;
    let top = Number.NEGATIVE_INFINITY;
    for (let i = 0; i < count; i++) if (sign * drawn[i] > top) top = sign * drawn[i];
    const near = 1e-9 * Math.max(1, Math.abs(top));
    let winners = 0;
    for (let i = 0; i < count; i++) {
      const behind = top - sign * drawn[i];
      loss[i] += behind;
      values[i][this.draws] = drawn[i];
      if (behind <= near) winners++;
    }
    for (let i = 0; i < count; i++) if (top - sign * drawn[i] <= near) best[i] += 1 / winners;
    this.draws++;
  }

  said(): OptionChance[] {
    return this.values.map((own, i) => {
      // A few thousand draws say where nine in ten lie.
      const every = Math.ceil(own.length / 2000);
      const sorted = own.filter((_, d) => d % every === 0).sort();
      const at = (share: number) => sorted[Math.min(sorted.length - 1, Math.floor(share * sorted.length))];
      let sum = 0;
      for (const v of own) sum += v;
      return {
        best: this.best[i] / this.draws,
        loss: this.loss[i] / this.draws,
        value: sum / own.length,
        lo: at(0.05),
        hi: at(0.95),
      };
    });
  }
}

/** Rows with orthonormal contrasts, so that no level is the one that others are compared with; pairs as their products. */
function contrasts({ counts, pairs, control }: Model) {
  const of = counts.map(contrastsOf);
  const sizes = [
    ...counts.map(c => c - 1),
    ...pairs.map(([a, b]) => (counts[a] - 1) * (counts[b] - 1)),
    ...(control ? [1] : []),
  ];
  const width = 1 + sizes.reduce((a, b) => a + b, 0);
  return {
    sizes,
    width,
    of: (levels: readonly number[]): Float64Array => {
      const mine = counts.map((count, f) => of[f][levels[f]] ?? new Array<number>(count - 1).fill(0));
      return Float64Array.from([
        1,
        ...mine.flat(),
        ...pairs.flatMap(([a, b]) => mine[a].flatMap(x => mine[b].map(y => x * y))),
        ...(control ? [Number(levels.length === 0)] : []),
      ]);
    },
  };
}

/** Helmert contrasts with columns of length one over the levels: levels differ with the same prior whichever two they are. */
function contrastsOf(count: number): number[][] {
  return Array.from({ length: count }, (_, level) =>
    Array.from({ length: count - 1 }, (_, j) => {
      const size = Math.sqrt((j + 1) * (j + 2));
      return level <= j ? 1 / size : level === j + 1 ? -(j + 1) / size : 0;
    }),
  );
}

/** A sampler that goes from block to block; all it needs of the data are cross products. */
class Gibbs {
  readonly beta: Float64Array;
  readonly isIn: boolean[];
  private readonly xx: Float64Array[];
  private readonly xy: Float64Array;
  private readonly yy: number;
  private readonly n: number;
  private readonly size: Float64Array;
  private scatter: number;
  /** Room for the factor of each block. */
  private readonly factors: readonly Square[];

  constructor(
    design: readonly Float64Array[],
    y: readonly number[],
    private readonly blocks: readonly Block[],
    private readonly chance: Chance,
  ) {
    const width = design[0]?.length ?? 1;
    this.n = y.length;
    this.xx = square(width);
    this.xy = new Float64Array(width);
    design.forEach((row, i) => {
      for (let a = 0; a < width; a++) {
        if (!row[a]) continue;
        for (let b = 0; b < width; b++) this.xx[a][b] += row[a] * row[b];
        this.xy[a] += row[a] * y[i];
      }
    });
    this.yy = y.reduce((sum, v) => sum + v * v, 0);
    const mean = y.reduce((sum, v) => sum + v, 0) / this.n;
    this.beta = new Float64Array(width);
    this.beta[0] = mean;
    this.scatter = Math.max(
      1e-12 * (1 + mean * mean),
      y.reduce((sum, v) => sum + (v - mean) ** 2, 0) / Math.max(1, this.n - 1),
    );
    this.isIn = blocks.map(b => b.always);
    this.factors = blocks.map(b => square(b.to - b.from));
    this.size = Float64Array.from(blocks, b => b.scale * b.scale);
  }

  /** Standard deviation of patches made alike, as drawn. */
  get sd(): number {
    return Math.sqrt(this.scatter);
  }

  /** Standard deviation of the effects of a block, as drawn. */
  spreadOf(block: number): number {
    return Math.sqrt(this.size[block] * this.scatter);
  }

  /** What the data say of some columns once all else is taken off. */
  private left(from: number, to: number): Float64Array {
    const out = new Float64Array(to - from);
    for (let a = from; a < to; a++) {
      let v = this.xy[a];
      const row = this.xx[a];
      for (let b = 0; b < this.beta.length; b++) if (b < from || b >= to) v -= row[b] * this.beta[b];
      out[a - from] = v;
    }
    return out;
  }

  step(): void {
    const { beta, chance, blocks } = this;
    const [alone] = this.left(0, 1);
    beta[0] = alone / this.n + Math.sqrt(this.scatter / this.n) * chance.normal();
    for (let k = 0; k < blocks.length; k++) this.draw(blocks[k], k);
    let rss = this.yy;
    let effects = 0;
    let count = 0;
    for (let a = 0; a < beta.length; a++) {
      if (!beta[a]) continue;
      let v = 0;
      for (let b = 0; b < beta.length; b++) v += this.xx[a][b] * beta[b];
      rss += beta[a] * (v - 2 * this.xy[a]);
    }
    blocks.forEach(({ from, to }, k) => {
      if (!this.isIn[k]) return;
      for (let a = from; a < to; a++) effects += (beta[a] * beta[a]) / this.size[k];
      count += to - from;
    });
    this.scatter = Math.max(
      1e-300,
      Math.max(1e-12 * this.yy, rss + effects) / 2 / chance.gamma((this.n + count) / 2),
    );
  }

  /** One block anew, given all the rest: whether it is in, its effects, and their size. */
  private draw(block: Block, k: number): void {
    const { beta, chance } = this;
    const { from, to, scale } = block;
    const m = to - from;
    const half = this.left(from, to);
    const l = this.factors[k];
    for (let a = 0; a < m; a++)
      for (let b = 0; b <= a; b++) l[a][b] = this.xx[from + a][from + b] + (a === b ? 1 / this.size[k] : 0);
    if (!choleskyIn(l)) return;
    forward(l, half);
    if (!block.always) {
      // How much likelier the data are with the block than without it, its effects averaged out.
      let log = 0;
      for (let a = 0; a < m; a++) log += (half[a] * half[a]) / (2 * this.scatter) - Math.log(l[a][a]);
      log -= (m / 2) * Math.log(this.size[k]);
      this.isIn[k] = chance.next() < 1 / (1 + ((1 - MATTERS) / MATTERS) * Math.exp(-log));
    }
    if (!this.isIn[k]) {
      for (let a = from; a < to; a++) beta[a] = 0;
      // Its size is then what the prior says.
      this.size[k] = (scale * scale) / 2 / chance.gamma(0.5);
      return;
    }
    const sd = Math.sqrt(this.scatter);
    for (let a = 0; a < m; a++) half[a] += sd * chance.normal();
    backward(l, half);
    let sum = 0;
    for (let a = 0; a < m; a++) {
      beta[from + a] = half[a];
      sum += half[a] * half[a];
    }
    this.size[k] = (scale * scale + sum / this.scatter) / 2 / chance.gamma((1 + m) / 2);
  }
}

/** Prior of failing: about one in six, anywhere from one in a hundred to three in four; two levels differ by some two on the logit. */
const FAILS = { mean: -1.6, sd: 1.6, effect: 1.4 };
/** Prior chance that failing has to do with a factor, as long as none failed: then nothing speaks for it. */
const FAILS_BY = 0.5;
/** Steps of the sampler that are let go. */
const FAIL_WARM_UP = 25;

/**
 * Draws of the chance of each option to fail: logistic regression with normal priors, so that an option of which all
 * failed, or none, has no chance without end, and one of which none failed yet may still; as long as nothing failed, a
 * factor has nothing to do with it with even chances. Effects are drawn by elliptical slice sampling (Murray, Adams &
 * MacKay 2010), which needs no mode and no shape, and what has to do with it by Gibbs sampling.
 */
function drawsOfFailure(
  cases: readonly { readonly levels: readonly number[]; readonly failed: boolean }[],
  model: Model,
  options: readonly (readonly number[])[],
  chance: Chance,
): () => number[] {
  const rows = contrasts(model);
  const wide = rows.width;
  const made = new Map<string, { row: Float64Array; of: number; failed: number }>();
  for (const { levels, failed } of cases) {
    const key = levels.join();
    const own = made.get(key) ?? { row: rows.of(levels), of: 0, failed: 0 };
    made.set(key, { ...own, of: own.of + 1, failed: own.failed + Number(failed) });
  }
  const seen = [...made.values()];
  const blocks: [from: number, to: number][] = [];
  for (const size of rows.sizes) {
    const from = blocks.at(-1)?.[1] ?? 1;
    blocks.push([from, from + size]);
  }
  const isOpen = seen.every(s => !s.failed);
  const isIn = blocks.map(() => true);
  /** What moves failing: effects of what has nothing to do with it are none. */
  const effects = (beta: Float64Array): Float64Array => {
    const own = beta.slice();
    for (const [k, [from, to]] of blocks.entries()) if (!isIn[k]) own.fill(0, from, to);
    return own;
  };
  const logLikelihood = (beta: Float64Array): number => {
    const own = effects(beta);
    return seen.reduce((sum, { row, of, failed }) => {
      const x = FAILS.mean + sumOf(row, own);
      return sum + failed * x - of * (x > 30 ? x : Math.log1p(Math.exp(x)));
    }, 0);
  };
  const sds = Float64Array.from({ length: wide }, (_, j) => (j ? FAILS.effect : FAILS.sd));
  let beta: Float64Array = new Float64Array(wide);
  let height = logLikelihood(beta);
  const move = () => {
    const other = sds.map(sd => sd * chance.normal());
    const least = height + Math.log(1 - chance.next());
    let angle = 2 * Math.PI * chance.next();
    let [low, high] = [angle - 2 * Math.PI, angle];
    for (;;) {
      const [c, s] = [Math.cos(angle), Math.sin(angle)];
      const next = beta.map((v, j) => v * c + other[j] * s);
      const found = logLikelihood(next);
      if (found > least || high - low < 1e-12) {
        if (found > least) [beta, height] = [next, found];
        return;
      }
      if (angle < 0) low = angle;
      else high = angle;
      angle = low + (high - low) * chance.next();
    }
  };
  const step = () => {
    move();
    if (!isOpen) return;
    for (const k of blocks.keys()) {
      const was = height;
      isIn[k] = !isIn[k];
      const other = logLikelihood(beta);
      const odds = (isIn[k] ? FAILS_BY / (1 - FAILS_BY) : (1 - FAILS_BY) / FAILS_BY) * Math.exp(other - was);
      if (chance.next() < odds / (1 + odds)) height = other;
      else isIn[k] = !isIn[k];
    }
  };
  for (let i = 0; i < FAIL_WARM_UP; i++) step();
  const asked = options.map(o => rows.of(o));
  return () => {
    step();
    const own = effects(beta);
    return asked.map(row => 1 / (1 + Math.exp(-FAILS.mean - sumOf(row, own))));
  };
}

function sumOf(a: Float64Array, b: Float64Array): number {
  let sum = 0;
  for (let j = 0; j < a.length; j++) sum += a[j] * b[j];
  return sum;
}
