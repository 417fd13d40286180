import { Matrix, solve } from 'ml-matrix';

/** A place of bare paper, mm, with its raw linear colour. */
export interface WhiteSample {
  readonly x: number;
  readonly y: number;
  readonly rgb: readonly [number, number, number];
}

/** The light at a place given in mm: what paper white looks like there, for each channel. */
export type Light = (c: number, x: number, y: number) => number;

interface Edge {
  /** Direction of its normal, radians. */
  readonly angle: number;
  readonly offset: number;
  /** How fast it goes from light to dark, mm: a tenth to nine tenths in 4.4 of it. */
  readonly soft: number;
}

/** Half-shadows that are tried, mm. */
const FIRST_SOFT = [0.8, 3];
const SOFTNESSES = [0.3, 0.8, 1.6, 3, 6];
/** An edge shows in so many samples as well as in all. */
const MOST_SEARCHED = 400;
const ANGLES = 24;
const OFFSETS = 21;
/** An edge is believed in from this depth (share of the light) and this much better a fit on. */
const LEAST_DEPTH = 0.06;
const BETTER = 0.6;
const PASSES = 3;
/** A dirty place counts as no more than this against a fit (log light). */
const MOST_OFF = 0.12;
/** How far a slope and a bend of the light are held back, as a share of all samples. */
const HELD = 1e-5;
const HELD_CURVED = 3e-5;

const step = (edge: Edge, x: number, y: number) =>
  1 / (1 + Math.exp(-(x * Math.cos(edge.angle) + y * Math.sin(edge.angle) - edge.offset) / edge.soft));

/**
 * The light over a card from samples of its white paper: in each channel the logarithm is a quadratic surface
 * (a lamp near by, a lens that darkens to its corners), refitted without outliers; and, where it fits far better, one
 * straight shadow edge common to all channels (the shade of a head or a window's frame). `size` is the width fitted over, mm.
 */
export function lightFrom(samples: readonly WhiteSample[], size: number): Light {
  const kept = samples.filter(s => Math.min(...s.rgb) > 1e-4);
  const green = kept.map(s => Math.log(s.rgb[1]));
  const smooth = fitted(kept, green, size);
  const edge = findEdge(kept, green, size, smooth.error);
  const fits = [0, 1, 2].map(c =>
    fitted(
      kept,
      kept.map(s => Math.log(s.rgb[c])),
      size,
      edge,
    ),
  );
  const betas = fits.map(f => f.beta);
  return (c, x, y) => {
    const u = x / size - 0.5;
    const v = y / size - 0.5;
    const [b0, b1, b2, b3, b4, b5, b6] = betas[c];
    const smooth = b0 + b1 * u + b2 * v + b3 * u * u + b4 * u * v + b5 * v * v;
    return Math.exp(edge ? smooth + b6 * step(edge, x, y) : smooth);
  };
}

function terms(x: number, y: number, size: number, edge?: Edge): number[] {
  const u = x / size - 0.5;
  const v = y / size - 0.5;
  const smooth = [1, u, v, u * u, u * v, v * v];
  return edge ? [...smooth, step(edge, x, y)] : smooth;
}

function fitted(
  samples: readonly WhiteSample[],
  values: readonly number[],
  size: number,
  edge?: Edge,
  passes = PASSES,
) {
  const rows = samples.map(s => terms(s.x, s.y, size, edge));
  let kept = rows.map((_, i) => i);
  let beta: number[] = [];
  let error = 0;
  for (let pass = 0; pass < passes; pass++) {
    beta = leastSquares(
      kept.map(i => rows[i]),
      kept.map(i => values[i]),
    );
    const off = rows.map((row, i) => Math.abs(values[i] - dot(row, beta)));
    const sorted = kept.map(i => off[i]).sort((a, b) => a - b);
    const spread = Math.max(0.01, sorted[sorted.length >> 1] * 1.48);
    error = Math.sqrt(off.reduce((sum, o) => sum + Math.min(o, MOST_OFF) ** 2, 0) / off.length);
    const next = rows.map((_, i) => i).filter(i => off[i] < 3 * spread);
    if (next.length < 12) break;
    kept = next;
  }
  return { beta, error };
}

/** The shadow edge that explains the paper's brightness best, if one does so far better than none. */
function findEdge(all: readonly WhiteSample[], logs: readonly number[], size: number, without: number) {
  if (all.length < 24 || without < 0.015) return undefined;
  const every = Math.ceil(all.length / MOST_SEARCHED);
  const samples = all.filter((_, i) => i % every === 0);
  const values = logs.filter((_, i) => i % every === 0);
  let best: { edge: Edge; error: number; depth: number } | undefined;
  for (let a = 0; a < ANGLES; a++) {
    const angle = (Math.PI * a) / ANGLES;
    const along = samples.map(s => s.x * Math.cos(angle) + s.y * Math.sin(angle)).sort((p, q) => p - q);
    const [from, to] = [along[Math.floor(0.08 * along.length)], along[Math.floor(0.92 * along.length)]];
    for (let k = 0; k < OFFSETS * FIRST_SOFT.length; k++) {
      const edge = {
        angle,
        offset: from + ((to - from) * (k % OFFSETS)) / (OFFSETS - 1),
        soft: FIRST_SOFT[Math.floor(k / OFFSETS)],
      };
      const { beta, error } = fitted(samples, values, size, edge, 1);
      if (!best || error < best.error) best = { edge, error, depth: Math.abs(beta[6]) };
    }
  }
  if (!best || best.depth < LEAST_DEPTH || best.error > BETTER * without) return undefined;
  for (const [da, reach] of [
    [Math.PI / ANGLES, 2],
    [Math.PI / ANGLES / 3, 0.7],
    [Math.PI / ANGLES / 9, 0.25],
  ] as const)
    for (let i = -2; i <= 2; i++)
      for (let j = -2; j <= 2; j++) {
        const edge: Edge = {
          angle: best.edge.angle + (i * da) / 2,
          offset: best.edge.offset + (j * reach) / 2,
          soft: best.edge.soft,
        };
        const { beta, error } = fitted(samples, values, size, edge, 1);
        if (error < best.error) best = { edge, error, depth: Math.abs(beta[6]) };
      }
  for (const soft of SOFTNESSES) {
    const edge: Edge = { ...best.edge, soft };
    const { beta, error } = fitted(samples, values, size, edge, 1);
    if (error < best.error) best = { edge, error, depth: Math.abs(beta[6]) };
  }
  return best.edge;
}

/** Least squares, a little held back so that four corner pieces alone do not bend the surface between them. */
function leastSquares(rows: readonly number[][], values: readonly number[]): number[] {
  const n = rows[0].length;
  const A = new Float64Array(n * n);
  const b = new Float64Array(n);
  for (let r = 0; r < rows.length; r++) {
    const row = rows[r];
    for (let i = 0; i < n; i++) {
      b[i] += row[i] * values[r];
      for (let j = 0; j <= i; j++) A[i * n + j] += row[i] * row[j];
    }
  }
  const held = (i: number) => (i === 0 ? 0 : rows.length * (i > 2 && i < 6 ? HELD_CURVED : HELD));
  const whole = Array.from({ length: n }, (_, i) =>
    Array.from({ length: n }, (_, j) => A[Math.max(i, j) * n + Math.min(i, j)] + (i === j ? held(i) : 0)),
  );
  return solve(new Matrix(whole), Matrix.columnVector([...b])).to1DArray();
}

const dot = (a: readonly number[], b: readonly number[]) => a.reduce((sum, v, i) => sum + v * b[i], 0);
