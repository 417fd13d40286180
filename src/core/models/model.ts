import { type Nest, NO_LEVEL } from '../trial/index.ts';
import { type Decomposed, decompose, dot, solveUpperT } from './qr.ts';

/** What is fitted: how many levels each factor has, which pairs have an effect together, and what is nested in methods. */
export interface Model {
  readonly counts: readonly number[];
  readonly pairs: readonly (readonly [number, number])[];
  readonly nest?: Nest | undefined;
  /** Patches without levels are among them: made in one way of their own, they tell boards and days, not factors. */
  readonly control?: boolean;
}

/** The columns of a model over data, taken apart, with the rows that its means are made of. */
export interface Coded {
  readonly parts: Decomposed;
  readonly width: number;
  /** The contrast of the orthonormal columns that a row of the model is; nothing where the data do not tell it. */
  told(row: readonly number[]): Float64Array | undefined;
  /** Of a row that the data do not tell: the factors that it is mixed up with or that have no data. */
  mixedWith(row: readonly number[]): readonly number[];
}

/** A column that shares less than this with a row does not hold it. */
const SHARES = 1e-6;

/**
 * Codes levels (one array a patch, −1 for what its method does not have) with treatment contrasts, and takes apart what
 * the data tell: a row is estimable where it lies in the row space of the columns (Searle 1971).
 *
 * @example coded({ counts: [2], pairs: [] }, [[0], [1]]).width; // => 2
 */
export function coded(model: Model, levels: readonly (readonly number[])[]): Coded {
  const rows = levels.map(l => rowOf(model, l));
  const width =
    rows[0]?.length ??
    rowOf(
      model,
      model.counts.map(() => 0),
    ).length;
  const columns = Array.from({ length: width }, (_, j) => Float64Array.from(rows, row => row[j]));
  const parts = decompose(columns);
  const owners = ownersOf(model);
  // What makes nothing of the data: a column left out, less what it is of the kept ones.
  const nulls = [...parts.left].map(([place, of]) => {
    const v = new Float64Array(width);
    v[place] = 1;
    parts.kept.forEach((k, i) => {
      if (i < of.length) v[k] = -of[i];
    });
    return v;
  });
  const off = (row: Float64Array) => nulls.filter(v => Math.abs(dot(v, row)) > SHARES);
  return {
    parts,
    width,
    told: row => {
      const full = Float64Array.from(row);
      return off(full).length
        ? undefined
        : solveUpperT(
            parts.r,
            Float64Array.from(parts.kept, k => full[k]),
          );
    },
    mixedWith: row => {
      const found = new Set<number>();
      for (const v of off(Float64Array.from(row)))
        v.forEach((share, j) => {
          if (Math.abs(share) > SHARES) for (const f of owners[j]) found.add(f);
        });
      return [...found].sort((a, b) => a - b);
    },
  };
}

/** Which factors each column is of. */
function ownersOf({ counts, pairs, control }: Model): readonly (readonly number[])[] {
  const each = (f: number) => Array.from({ length: counts[f] - 1 }, (_, i) => i);
  return [
    [],
    ...counts.flatMap((_, f) => each(f).map(() => [f])),
    ...pairs.flatMap(([f, g]) => each(f).flatMap(() => each(g).map(() => [f, g]))),
    ...(control ? [[]] : []),
  ];
}

/** Intercept, main effects against each factor's first level, and the products of the pairs. */
const rowFrom = (
  shares: readonly (readonly number[])[],
  { pairs, control }: Model,
  isControl = false,
): number[] => [
  1,
  ...shares.flat(),
  ...pairs.flatMap(([f, g]) => shares[f].flatMap(a => shares[g].map(b => a * b))),
  ...(control ? [Number(isControl)] : []),
];

/**
 * The row of one combination of levels; of a control, which has none, the row of its own.
 *
 * @example rowOf({ counts: [2, 3], pairs: [] }, [1, 2]); // => [1, 1, 0, 1]
 */
export const rowOf = (model: Model, levels: readonly number[]): number[] =>
  rowFrom(
    model.counts.map((count, f) => Array.from({ length: count - 1 }, (_, i) => Number(levels[f] === i + 1))),
    model,
    levels.length === 0,
  );

/**
 * The row of some levels with every other factor averaged evenly over its own (estimated marginal means, Searle, Speed &
 * Milliken 1980); of nested settings over the methods that have them, each counting the same.
 *
 * @example meanRow({ counts: [2, 3], pairs: [] }, new Map([[0, 1]])).slice(0, 2); // => [1, 1]
 */
export function meanRow(model: Model, fixed: ReadonlyMap<number, number>): number[] {
  const rows = methodsWith(model, fixed).map(method => evenRow(model, fixed, method));
  return rows[0].map((_, j) => rows.reduce((sum, row) => sum + row[j], 0) / rows.length);
}

function methodsWith({ counts, nest }: Model, fixed: ReadonlyMap<number, number>): (number | undefined)[] {
  if (!nest) return [undefined];
  const own = fixed.get(nest.by);
  if (own !== undefined) return [own];
  const all = Array.from({ length: counts[nest.by] }, (_, m) => m);
  const having = all.filter(m => [...fixed].every(([f, level]) => level === NO_LEVEL || nest.has[f][m]));
  return having.length ? having : all;
}

function evenRow(model: Model, fixed: ReadonlyMap<number, number>, method: number | undefined): number[] {
  const { counts, nest } = model;
  const share = (f: number, count: number, i: number) => {
    const level = fixed.get(f);
    if (level !== undefined) return Number(level === i + 1);
    if (method === undefined || !nest) return 1 / count;
    if (f === nest.by) return Number(method === i + 1);
    return nest.has[f][method] ? 1 / count : 0;
  };
  const shares = counts.map((count, f) => Array.from({ length: count - 1 }, (_, i) => share(f, count, i)));
  return rowFrom(shares, model);
}
