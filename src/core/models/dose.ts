import normalCdf from '@stdlib/stats-base-dists-normal-cdf';
import { chanceFrom } from '../random/index.ts';
import { backward, cholesky, forward } from './small.ts';

/** One observation: how much of it (as a logarithm), and what came of it. */
export interface Dosed {
  readonly x: number;
  readonly y: number;
}

/** One draw: level from `from` to `to`, lower on either side. */
export interface Trapezoid {
  readonly top: number;
  /** As good as it gets, within what is asked for, from here … */
  readonly from: number;
  /** … to here. */
  readonly to: number;
  readonly at: (x: number) => number;
}

/** How a response comes down from its level: not at all, evenly, ever faster, or all at once. */
const SIDES = ['none', 'slope', 'bend', 'step'] as const;
type Side = (typeof SIDES)[number];

/** How far beyond an end a place counts, for an amplitude of one point. */
const BEYOND: Record<Side, (d: number) => number> = {
  none: () => 0,
  slope: d => Math.max(0, d),
  bend: d => Math.max(0, d) ** 2,
  step: d => Number(d > 0),
};
/** How far beyond an end it is so many points below the level, at an amplitude. */
const REACH: Record<Side, (points: number, amplitude: number) => number> = {
  none: () => 0,
  slope: (points, amplitude) => points / amplitude,
  bend: (points, amplitude) => Math.sqrt(points / amplitude),
  step: () => 0,
};
/** Amplitudes beforehand: half a normal distribution of this many points (per unit, per unit squared), at the usual scatter. */
const AMPLITUDE = 45;
const GRID = 41;
const DRAWS = 400;
/** What is known of the scatter beforehand: about three points, worth two observations. */
const SCATTER = { sd: 3, worth: 2 };
const SAME_X = 0.02;

interface Shape {
  readonly a: number;
  readonly b: number;
  readonly left: Side;
  readonly right: Side;
  readonly log: number;
  /** Level and amplitudes: mean, and root of their covariance in units of the scatter. */
  readonly mean: readonly number[];
  readonly root: readonly (readonly number[])[];
  readonly ss: number;
}

/**
 * A response that rises, stays and falls, each or none of it, evenly, ever faster or all at once: every place of the two
 * ends on a grid is weighed by how likely it makes the observations, with level, amplitudes and scatter integrated out
 * (normal-inverse-gamma: Gelman et al. 2013, ch. 14; amplitudes are not below nought), and drawn from. Bends and cliffs
 * alike are in it, and nothing that goes up and down again, which no wait, coat or rubbing does. Nothing with fewer than
 * three different places.
 *
 * @param good how far below the level is still as good.
 */
export function trapezoidsOf(seen: readonly Dosed[], good: number): readonly Trapezoid[] | undefined {
  const points: { x: number; n: number; sum: number; squares: number }[] = [];
  for (const { x, y } of [...seen].sort((p, q) => p.x - q.x)) {
    const last = points.at(-1);
    if (last && x - last.x < SAME_X) {
      last.n++;
      last.sum += y;
      last.squares += y * y;
    } else points.push({ x, n: 1, sum: y, squares: y * y });
  }
  if (points.length < 3) return undefined;
  const n = seen.length;
  const [least, most] = [points[0].x, points[points.length - 1].x];
  const grid = Array.from({ length: GRID }, (_, i) => least + ((most - least) * i) / (GRID - 1));
  const shapes: Shape[] = [];
  for (const left of SIDES)
    for (const right of SIDES)
      for (const [i, a] of grid.entries()) {
        if (left === 'none' && i > 0) break;
        for (const [j, b] of grid.entries()) {
          if (j < i || (right === 'none' && j < GRID - 1)) continue;
          const prior = priorOf(left) * priorOf(right) * placed(i, j, left !== 'none', right !== 'none');
          const shape = weighed(points, n, { a, b, left, right }, Math.log(prior));
          if (shape) shapes.push(shape);
        }
      }
  const top = shapes.reduce((best, s) => Math.max(best, s.log), Number.NEGATIVE_INFINITY);
  const weights = shapes.map(s => Math.exp(s.log - top));
  const total = weights.reduce((x, y) => x + y, 0);
  const chance = chanceFrom(23);
  const cell = grid[1] - grid[0];
  // Drawn in turn along the weights (systematic resampling): fewer draws say as much.
  const draws: Trapezoid[] = [];
  let [k, passed] = [0, weights[0]];
  for (let d = 0; d < DRAWS; d++) {
    const mark = ((d + chance.next()) / DRAWS) * total;
    while (passed < mark && k < shapes.length - 1) passed += weights[++k];
    const s = shapes[k];
    const [height, one, other] = drawnFrom(s, n, chance);
    // Somewhere in its cell of the grid.
    const jitter = () => cell * (chance.next() - 0.5);
    const a = s.left === 'none' ? least : Math.min(most, Math.max(least, s.a + jitter()));
    const b = s.right === 'none' ? most : Math.max(a, Math.min(most, s.b + jitter()));
    draws.push({
      top: height,
      from: Math.max(least, a - REACH[s.left](good, one)),
      to: Math.min(most, b + REACH[s.right](good, other)),
      at: x => height - one * BEYOND[s.left](a - x) - other * BEYOND[s.right](x - b),
    });
  }
  return draws;
}

/** A third of what may be has no side to come down on; the other ways share the rest. */
const priorOf = (side: Side): number => (side === 'none' ? 1 / 3 : 2 / 3 / (SIDES.length - 1));

/** Chance that there is no level stretch at all: a peak, or still rising where the trial ends. */
const NO_STRETCH = 0.4;

/** How likely the two ends lie there beforehand: with {@link NO_STRETCH} at one place, else anywhere with the same chance. */
function placed(i: number, j: number, hasLeft: boolean, hasRight: boolean): number {
  if (!hasLeft && !hasRight) return 1;
  const all = hasLeft && hasRight ? (GRID * (GRID + 1)) / 2 : GRID;
  const narrow = hasLeft && hasRight ? GRID : 1;
  return (1 - NO_STRETCH) / all + (i === j ? NO_STRETCH / narrow : 0);
}

/** Level and amplitudes from the posterior of a shape; amplitudes above nought. */
function drawnFrom({ mean, root, ss }: Shape, n: number, chance: ReturnType<typeof chanceFrom>): number[] {
  const sd = Math.sqrt(ss / (n + SCATTER.worth));
  for (let tries = 0; ; tries++) {
    const z = mean.map(() => sd * chance.normal());
    const drawn = mean.map((m, r) => m + root[r].reduce((sum, v, c) => sum + v * z[c], 0));
    if (tries > 60) return drawn.map((v, r) => (r ? Math.max(1e-6, Math.abs(v)) : v));
    if (drawn.slice(1).every(v => v > 0)) return drawn;
  }
}

type Points = readonly {
  readonly x: number;
  readonly n: number;
  readonly sum: number;
  readonly squares: number;
}[];

/** One shape with its weight: nothing where it goes up where it should go down. */
function weighed(
  points: Points,
  n: number,
  { a, b, left, right }: Pick<Shape, 'a' | 'b' | 'left' | 'right'>,
  prior: number,
): Shape | undefined {
  // Normal equations of level and amplitudes; the amplitudes with their prior, in units of the scatter.
  const weak = (SCATTER.sd / AMPLITUDE) ** 2;
  const xx = [
    [1e-8, 0, 0],
    [0, weak, 0],
    [0, 0, weak],
  ];
  const xy = [0, 0, 0];
  let yy = 0;
  for (const p of points) {
    const row = [1, -BEYOND[left](a - p.x), -BEYOND[right](p.x - b)];
    for (let r = 0; r < 3; r++) {
      for (let c = 0; c < 3; c++) xx[r][c] += p.n * row[r] * row[c];
      xy[r] += row[r] * p.sum;
    }
    yy += p.squares;
  }
  const low = cholesky(xx.map(row => Float64Array.from(row)));
  if (!low) return undefined;
  const mean = [...backward(low, forward(low, Float64Array.from(xy)))];
  const explained = mean.reduce((sum, m, r) => sum + m * xy[r], 0);
  const ss = Math.max(1e-9, yy - explained) + SCATTER.worth * SCATTER.sd ** 2;
  // The inverse of the factor, turned: a root of the covariance.
  const root = [0, 1, 2].map(() => [0, 0, 0]);
  for (let c = 0; c < 3; c++) {
    const unit = new Float64Array(3);
    unit[c] = 1;
    backward(low, unit).forEach((v, r) => {
      root[r][c] = v;
    });
  }
  const sd = Math.sqrt(ss / (n + SCATTER.worth));
  let log = prior - ((n - 1 + SCATTER.worth) / 2) * Math.log(ss) + Math.log(weak);
  for (let r = 0; r < 3; r++) log -= Math.log(low[r][r]);
  for (const [r, side] of [
    [1, left],
    [2, right],
  ] as const) {
    if (side === 'none') continue;
    const spread = sd * Math.hypot(...root[r]);
    const above = normalCdf(mean[r] / spread, 0, 1);
    if (above < 1e-6) return undefined;
    log += Math.log(2 * above);
  }
  return { a, b, left, right, log, mean, root, ss };
}
