import { CholeskyDecomposition, Matrix } from 'ml-matrix';
import { chanceFrom } from '../random/index.ts';

/** One observation of a response: where, and what came of it. */
export interface Seen {
  readonly x: number;
  readonly y: number;
}

/** The best place of a response: where the most is to be expected, where nine in ten of what the data allow have it, and how much is expected. */
export interface Top {
  readonly x: number;
  readonly lo: number;
  readonly hi: number;
  readonly expected: number;
  /** Chance that the best lies at an end of what was tried. */
  readonly atEnd: number;
  /** By how much y falls from the best place that was tried to the next on either side, the lesser of the two; nothing at an end. */
  readonly falls: number;
}

/** Shapes that are weighed against each other: how far along x values hang together, how much they differ, how much they scatter. */
const LENGTHS = [0.15, 0.3, 0.6, 1.2];
const HEIGHTS = [4, 10, 22, 40];
const SCATTERS = [1, 2.5, 5, 10];
/** How much lands more or less beyond a cliff, as a standard deviation in points: anything up to all of it. */
const JUMP = 40;
/** With a cliff, what lies before and after it changes slowly. */
const BY_A_CLIFF = { lengths: [0.6, 1.2], heights: [4, 10, 22] };
/** A cliff is held to be as likely as none. */
const CLIFF = 0.5;
const GRID = 49;
const PATHS = 160;
/** Observations nearer than this on x are taken together. */
const SAME_X = 0.02;

/** Matérn covariance of order 3/2 (Rasmussen & Williams 2006, eq. 4.17): continuous, with bends, so that a cliff is not smoothed into a parabola. */
function matern(a: readonly number[], b: readonly number[], length: number, height: number): Matrix {
  const k = new Matrix(a.length, b.length);
  for (let i = 0; i < a.length; i++)
    for (let j = 0; j < b.length; j++) {
      const r = (Math.sqrt(3) * Math.abs(a[i] - b[j])) / length;
      k.set(i, j, height ** 2 * (1 + r) * Math.exp(-r));
    }
  return k;
}

/** Observations at the same place as one, with how many they are. */
function gathered(seen: readonly Seen[]): { x: number; y: number; n: number }[] {
  const out: { x: number; y: number; n: number }[] = [];
  for (const { x, y } of [...seen].sort((a, b) => a.x - b.x)) {
    const last = out.at(-1);
    if (last && x - last.x < SAME_X) {
      last.y = (last.y * last.n + y) / (last.n + 1);
      last.n++;
    } else out.push({ x, y, n: 1 });
  }
  return out;
}

interface Shape {
  readonly log: number;
  readonly mean: readonly number[];
  /** Draws one curve. */
  readonly draw: (z: readonly number[]) => number[];
}

/** A family of shapes: how far values hang together, how much they differ, how much they scatter, and whether there is a cliff. */
interface Family {
  readonly length: number;
  readonly height: number;
  readonly scatter: number;
  readonly cliff: boolean;
}

type Points = ReturnType<typeof gathered>;

/** What patches of the same wait differ by: their squares and degrees of freedom. */
interface Within {
  readonly ss: number;
  readonly df: number;
}

/**
 * What the shapes of one family make of the observations: how likely they are under each, and its mean and covariance over
 * the grid. A cliff (a change point: before it and after it the response differs by a jump that may be anything up to all
 * of it) is as likely in one place between the ends as in another; where it lies between two neighbouring waits the
 * observations cannot tell, so every place there is a shape of its own.
 */
function shapesOf(points: Points, within: Within, grid: readonly number[], family: Family): Shape[] {
  const { length, height, scatter } = family;
  const xs = points.map(p => p.x);
  const total = points.reduce((sum, p) => sum + p.n, 0);
  const centre = points.reduce((sum, p) => sum + p.n * p.y, 0) / total;
  const y = Matrix.columnVector(points.map(p => p.y - centre));
  const smooth = matern(xs, xs, length, height);
  points.forEach((p, i) => {
    smooth.set(i, i, smooth.get(i, i) + scatter ** 2 / p.n);
  });
  const across = matern(grid, xs, length, height);
  // What patches of the same wait differ by tells of the scatter alone.
  const alike = -within.df * Math.log(scatter) - within.ss / (2 * scatter ** 2);

  /** With a cliff right before the observation `from`, which the grid may have at any of `places`; with none, without. */
  const explained = (from: number, places: readonly (number | undefined)[]): Shape[] => {
    const jumps = (i: number, j: number) => (i >= from && j >= from ? JUMP ** 2 : 0);
    const k = smooth.clone();
    for (let i = from; i < xs.length; i++)
      for (let j = from; j < xs.length; j++) k.set(i, j, k.get(i, j) + jumps(i, j));
    const chol = new CholeskyDecomposition(k);
    if (!chol.isPositiveDefinite()) return [];
    const alpha = chol.solve(y);
    let logDet = 0;
    const l = chol.lowerTriangularMatrix;
    for (let i = 0; i < xs.length; i++) logDet += 2 * Math.log(l.get(i, i));
    const log = -0.5 * (y.transpose().mmul(alpha).get(0, 0) + logDet) + alike;
    const base = across.mmul(alpha).to1DArray();
    let jump = 0;
    for (let i = from; i < xs.length; i++) jump += JUMP ** 2 * alpha.get(i, 0);
    return places.map(place => {
      const after = (x: number) => place !== undefined && x >= place;
      const mean = base.map((v, g) => v + centre + (after(grid[g]) ? jump : 0));
      let root: Matrix | undefined;
      const draw = (z: readonly number[]) => {
        // Only the shapes that explain the data are ever drawn from.
        root ??= rootOf(leftOver(chol, after, from), height);
        return root
          .mmul(Matrix.columnVector([...z]))
          .to1DArray()
          .map((v, i) => v + mean[i]);
      };
      return { log, mean, draw };
    });
  };

  /** The covariance over the grid that is left when the observations are known. */
  const leftOver = (chol: CholeskyDecomposition, after: (x: number) => boolean, from: number): Matrix => {
    const cov = matern(grid, grid, length, height);
    const seen = across.clone();
    grid.forEach((x, g) => {
      if (!after(x)) return;
      for (let i = from; i < xs.length; i++) seen.set(g, i, seen.get(g, i) + JUMP ** 2);
      grid.forEach((other, h) => {
        if (after(other)) cov.set(g, h, cov.get(g, h) + JUMP ** 2);
      });
    });
    return Matrix.sub(cov, seen.mmul(chol.solve(seen.transpose())));
  };

  if (!family.cliff) return explained(xs.length, [undefined]);
  return xs.slice(1).flatMap((x, i) =>
    explained(
      i + 1,
      grid.slice(1).flatMap((g, j) => {
        const place = (g + grid[j]) / 2;
        return place > xs[i] && place <= x ? [place] : [];
      }),
    ),
  );
}

/** The lower triangular root of a covariance, with as much added to its diagonal as rounding needs. */
function rootOf(cov: Matrix, height: number): Matrix {
  for (let i = 0; i < cov.rows; i++)
    for (let j = 0; j <= i; j++) {
      const both = (cov.get(i, j) + cov.get(j, i)) / 2;
      cov.set(i, j, both);
      cov.set(j, i, both);
    }
  for (let jitter = 1e-7; ; jitter *= 10) {
    for (let i = 0; i < cov.rows; i++) cov.set(i, i, cov.get(i, i) + jitter * height ** 2);
    const chol = new CholeskyDecomposition(cov);
    if (chol.isPositiveDefinite()) return chol.lowerTriangularMatrix;
  }
}

/** Weights that spread a place on the grid by how exactly it is hit. */
function blur(grid: readonly number[], sd: number): Matrix {
  const w = new Matrix(grid.length, grid.length);
  const step = grid[1] - grid[0] || 1;
  grid.forEach((a, i) => {
    let sum = 0;
    const row = grid.map(b => Math.exp(-0.5 * ((a - b) / Math.max(sd, step / 3)) ** 2));
    for (const v of row) sum += v;
    row.forEach((v, j) => {
      w.set(i, j, v / sum);
    });
  });
  return w;
}

const argmax = (values: readonly number[]): number =>
  values.reduce((best, v, i) => (v > values[best] ? i : best), 0);

/** A response of free shape, as far as the observations tell it. */
export interface Curve {
  readonly grid: readonly number[];
  /** What is expected at each place of the grid. */
  readonly mean: readonly number[];
  /** Curves drawn from what the observations allow. */
  readonly paths: readonly (readonly number[])[];
}

/**
 * A response of free shape: Gaussian processes of many shapes, each weighed by how well it explains the data (Rasmussen &
 * Williams 2006, chapters 2 and 5), with and without a cliff. Nothing with fewer than two different places.
 *
 * @param within the ends of the scale; a curve that is drawn does not leave it.
 */
export function curveOf(seen: readonly Seen[], within?: readonly [number, number]): Curve | undefined {
  const points = gathered(seen);
  if (points.length < 2) return undefined;
  const ss = points.reduce(
    (sum, p) =>
      sum +
      seen.filter(s => s.x >= p.x - SAME_X && s.x <= p.x + SAME_X).reduce((t, s) => t + (s.y - p.y) ** 2, 0),
    0,
  );
  const alike = { ss, df: Math.max(0, seen.length - points.length) };
  const [from, to] = [points[0].x, points.at(-1)!.x];
  const grid = Array.from({ length: GRID }, (_, i) => from + ((to - from) * i) / (GRID - 1));
  const families = (lengths: readonly number[], heights: readonly number[], cliff: boolean) =>
    lengths.flatMap(length =>
      heights.flatMap(height => SCATTERS.map(scatter => ({ length, height, scatter, cliff }))),
    );
  /** All shapes of one kind, together as likely beforehand as `share`. */
  const kind = (all: readonly Family[], share: number) => {
    const shapes = all.flatMap(family => shapesOf(points, alike, grid, family));
    return shapes.map(s => ({ ...s, log: s.log + Math.log(share / shapes.length) }));
  };
  const shapes = [
    ...kind(families(LENGTHS, HEIGHTS, false), 1 - CLIFF),
    ...kind(families(BY_A_CLIFF.lengths, BY_A_CLIFF.heights, true), CLIFF),
  ];
  if (!shapes.length) return undefined;
  const most = Math.max(...shapes.map(s => s.log));
  const weights = shapes.map(s => Math.exp(s.log - most));
  const total = weights.reduce((a, b) => a + b, 0);
  const kept = (v: number) => (within ? Math.min(within[1], Math.max(within[0], v)) : v);
  const chance = chanceFrom(17);
  return {
    grid,
    mean: grid.map((_, i) => kept(shapes.reduce((sum, s, k) => sum + (weights[k] / total) * s.mean[i], 0))),
    paths: Array.from({ length: PATHS }, () => {
      let left = chance.next() * total;
      let k = 0;
      while (k < shapes.length - 1 && left > weights[k]) left -= weights[k++];
      return shapes[k].draw(grid.map(() => chance.normal())).map(kept);
    }),
  };
}

/** Places tried within a tenth or so of each other are one rung. */
const RUNG = 0.25;

function fallsAt(points: Points): number {
  const rungs: { x: number; y: number; n: number }[] = [];
  for (const { x, y, n } of points) {
    const last = rungs.at(-1);
    if (last && x - last.x < RUNG) {
      last.y = (last.y * last.n + y * n) / (last.n + n);
      last.n += n;
    } else rungs.push({ x, y, n });
  }
  const i = argmax(rungs.map(r => r.y));
  return i > 0 && i < rungs.length - 1 ? rungs[i].y - Math.max(rungs[i - 1].y, rungs[i + 1].y) : 0;
}

/**
 * Where a response of free shape ({@link curveOf}) is best, given that a place is hit only within `hits` (standard
 * deviation of x); the range is that of the best places of curves drawn from it. Nothing with fewer than two different
 * places.
 */
export function topOf(seen: readonly Seen[], hits: number): Top | undefined {
  const curve = curveOf(seen);
  if (!curve) return undefined;
  const { grid, mean, paths } = curve;
  const [from, to] = [grid[0], grid[grid.length - 1]];
  const spread = blur(grid, hits);
  const expected = spread.mmul(Matrix.columnVector([...mean])).to1DArray();
  const best = argmax(expected);
  // A place of the grid stands for all that is nearest to it.
  const cell = grid[1] - grid[0];
  const tops = paths
    .map(path => argmax(spread.mmul(Matrix.columnVector([...path])).to1DArray()))
    .sort((a, b) => a - b);
  return {
    x: grid[best],
    lo: Math.max(from, grid[Math.min(best, tops[Math.floor(0.05 * PATHS)])] - cell / 2),
    hi: Math.min(to, grid[Math.max(best, tops[Math.ceil(0.95 * PATHS) - 1])] + cell / 2),
    expected: expected[best],
    atEnd: tops.filter(i => i === 0 || i === GRID - 1).length / PATHS,
    falls: fallsAt(gathered(seen)),
  };
}
