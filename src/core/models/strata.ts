import type { Grouping } from './grouping.ts';
import { type Columns, decompose, dot } from './qr.ts';

/** Where the data of a fit with groups lie: within the groups, and between them (the strata of Nelder 1965). */
export interface Strata {
  /** Degrees of freedom left when everything, the groups too, is taken off: n − rank [X Z]. */
  readonly within: number;
  /** Mean square of what is left then. */
  readonly meanSquare: number;
  /** Value and squared length of a contrast with the groups taken off, as if they were fixed; nothing where it lies between groups. */
  inside(contrast: Float64Array): { readonly value: number; readonly square: number } | undefined;
  /**
   * The grouping, by its place, that a contrast cannot be told from: it lies between its groups, and they do not differ
   * in anything that is not compared. Nothing where it can be told.
   */
  heldBy(contrast: Float64Array): number | undefined;
}

/** Patches times the square of columns and groups. */
const MOST_WORK = 4e8;
/** A contrast of which less than this lies outside is told. */
const SHARES = 1e-6;

const indicators = ({ levels, of }: Grouping): Float64Array[] =>
  Array.from({ length: levels }, (_, a) => Float64Array.from(of, g => Number(g === a)));

/**
 * The strata of a layout: which contrasts can be told within the groups, and which of the others have something left
 * between the groups to be judged by.
 *
 * @param q orthonormal columns of what is fitted. @param y values.
 * @example strataOf([Float64Array.of(1, 0), Float64Array.of(0, 1)], Float64Array.of(3, 5), []).within; // => 0
 */
export function strataOf(q: Columns, y: Float64Array, groups: readonly Grouping[]): Strata | undefined {
  const width = q.length + groups.reduce((sum, g) => sum + g.levels, 0);
  if (y.length * width ** 2 > MOST_WORK) return undefined;
  const z = groups.map(indicators);
  const all = decompose([...z.flat(), ...q]);
  const within = y.length - all.q.length;
  const rest = offFrom(all.q, y);
  const meanSquare = within > 0 ? dot(rest, rest) / within : Number.NaN;
  const insideEach = z.map(own => insideOf(own, q, y));
  const heldBy = (contrast: Float64Array): number | undefined => {
    const isTold = insideEach.map(i => i(contrast) !== undefined);
    if (isTold.every(Boolean)) return undefined;
    // What it lies within is taken off first; then something has to be left between the groups it lies between.
    const first = decompose([...q, ...z.flatMap((own, k) => (isTold[k] ? own : []))]);
    const held = isTold.findIndex(
      (told, k) => !told && decompose([...first.q, ...z[k]]).q.length === first.q.length,
    );
    return held < 0 ? undefined : held;
  };
  return { within, meanSquare, inside: insideOf(z.flat(), q, y), heldBy };
}

/** What is left of a column once orthonormal ones are taken off. */
function offFrom(q: Columns, column: Float64Array): Float64Array {
  const v = column.slice();
  for (let pass = 0; pass < 2; pass++)
    for (const u of q) {
      const part = dot(u, v);
      for (let i = 0; i < v.length; i++) v[i] -= part * u[i];
    }
  return v;
}

/** Least squares with `z` taken off everything. */
function insideOf(z: Columns, q: Columns, y: Float64Array): Strata['inside'] {
  const base = decompose(z).q;
  const left = q.map(column => offFrom(base, column));
  // A column that lies wholly between the groups is left with rounding; it must not be taken for something.
  const parts = decompose(
    left.map((v, j) => (dot(v, v) > 1e-14 * dot(q[j], q[j]) ? v : new Float64Array(v.length))),
  );
  const nulls = [...parts.left].map(([place, of]) => {
    const v = new Float64Array(q.length);
    v[place] = 1;
    parts.kept.forEach((k, i) => {
      if (i < of.length) v[k] = -of[i];
    });
    return v;
  });
  const coordinates = parts.q.map(u => dot(u, y));
  return contrast => {
    const size = Math.sqrt(dot(contrast, contrast));
    if (nulls.some(v => Math.abs(dot(v, contrast)) > SHARES * size)) return undefined;
    const own = parts.kept.map(k => contrast[k]);
    // The contrast in the orthonormal columns of what is left: solve Rᵀ x = c.
    const x: number[] = [];
    parts.r.forEach((column, i) => {
      let sum = own[i];
      for (let k = 0; k < i; k++) sum -= column[k] * x[k];
      x.push(sum / column[i]);
    });
    return {
      value: x.reduce((sum, v, i) => sum + v * coordinates[i], 0),
      square: x.reduce((sum, v) => sum + v * v, 0),
    };
  };
}
