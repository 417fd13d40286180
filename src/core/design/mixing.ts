import { cholesky, contrasts, effectAt, informationOf } from './model.ts';

/** How far two groups of effects are mixed up in a set of runs: 0 not at all, 1 wholly. */
export interface Mixing {
  /** The factor whose main effect it is (its place in the list of factors). */
  readonly factor: number;
  /** One other factor (its main effect) or two (their interaction). */
  readonly others: readonly number[];
  readonly share: number;
}

type Columns = number[][];

/** Centred columns, one array per run. */
function centred(rows: Columns): Columns {
  const p = rows[0]?.length ?? 0;
  const means = Array.from({ length: p }, (_, k) => rows.reduce((s, r) => s + r[k], 0) / rows.length);
  return rows.map(r => r.map((v, k) => v - means[k]));
}

/** Orthonormal basis of the columns' span (modified Gram–Schmidt), as columns. */
function basis(rows: Columns): number[][] {
  const p = rows[0]?.length ?? 0;
  const out: number[][] = [];
  for (let k = 0; k < p; k++) {
    const v = rows.map(r => r[k]);
    const before = Math.sqrt(v.reduce((s, x) => s + x * x, 0));
    for (const q of out) {
      const dot = q.reduce((s, x, i) => s + x * v[i], 0);
      for (let i = 0; i < v.length; i++) v[i] -= dot * q[i];
    }
    const length = Math.sqrt(v.reduce((s, x) => s + x * x, 0));
    if (before > 1e-9 && length > 1e-7 * before) out.push(v.map(x => x / length));
  }
  return out;
}

/**
 * Mean squared canonical correlation of two groups of columns, over the dimensions of the first
 * (Hotelling 1936; as a measure of confounding: Grömping & Xu 2014).
 */
function overlap(a: number[][], b: number[][]): number {
  if (!a.length || !b.length) return 0;
  let sum = 0;
  for (const u of a) for (const v of b) sum += u.reduce((s, x, i) => s + x * v[i], 0) ** 2;
  return sum / a.length;
}

/**
 * What is mixed up with what: every main effect against every other main effect and against every interaction of
 * two other factors. Only shares above 2 % are listed, the worst first.
 */
export function mixingOf(runs: readonly (readonly number[])[], counts: readonly number[]): Mixing[] {
  const tables = counts.map(contrasts);
  const main = counts.map((_, f) => centred(runs.map(r => [...effectAt(tables[f], r[f])])));
  const bases = main.map(basis);
  const out: Mixing[] = [];
  const add = (factor: number, others: number[], share: number) => {
    if (share > 0.02) out.push({ factor, others, share: Math.min(1, share) });
  };
  counts.forEach((_, f) => {
    counts.forEach((_, g) => {
      if (g !== f) add(f, [g], overlap(bases[f], bases[g]));
    });
    for (let g = 0; g < counts.length; g++)
      for (let h = g + 1; h < counts.length; h++) {
        if (g === f || h === f) continue;
        const product = runs.map(r =>
          effectAt(tables[g], r[g]).flatMap(x => effectAt(tables[h], r[h]).map(y => x * y)),
        );
        add(f, [g, h], overlap(bases[f], basis(centred(product))));
      }
  });
  return out.sort((a, b) => b.share - a.share);
}

/** Whether these rows can tell all their effects apart. */
export const fullRank = (rows: readonly (readonly number[])[]): boolean =>
  rows.length > 0 && cholesky(informationOf(rows)) !== undefined;
