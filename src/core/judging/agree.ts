import { many, write } from '../say/index.ts';
import { standing, type TrialRecord } from '../trial/index.ts';
import type { Pair } from './pairs.ts';

/** How well pairs that were judged twice agree. */
export interface Agreement {
  /** Pairs that were judged more than once by the same judge, or by two. */
  readonly pairs: number;
  /** Share of them that came out alike. */
  readonly alike: number;
  /** Weighted kappa: 1 always alike, 0 no more than by chance. Nothing where chance alone would have it so. */
  readonly kappa: number | undefined;
  readonly words: string;
}

const RANK = { a: 0, neither: 1, b: 2 } as const;

/**
 * How well a judge agrees with herself (`of: 'self'`) or judges with each other: over every pair of patches that was
 * judged again, each time against the answer before, the kappa of Cohen (1968, Psychol. Bull. 70:213) with quadratic weights, `neither` half way.
 *
 * @example agreement([], 'self').pairs; // => 0
 */
export function agreement(pairs: readonly Pair[], of: 'self' | 'others'): Agreement {
  // What each judge said of two patches, in the order in which it was said, the same way round.
  const given = new Map<string, Map<string, number[]>>();
  for (const { a, b, better, judge } of pairs) {
    const isTurned = a > b;
    const key = isTurned ? `${b} ${a}` : `${a} ${b}`;
    const byJudge = given.get(key) ?? new Map<string, number[]>();
    given.set(key, byJudge);
    const said = byJudge.get(judge ?? '') ?? [];
    said.push(isTurned ? 2 - RANK[better] : RANK[better]);
    byJudge.set(judge ?? '', said);
  }
  const twice = [...given.values()].flatMap(byJudge =>
    of === 'self' ? [...byJudge.values()].flatMap(eachWithNext) : eachWithEach([...byJudge.values()]),
  );
  const n = twice.length;
  if (!n) return { pairs: 0, alike: 0, kappa: undefined, words: 'No pair was judged twice yet.' };
  const alike = twice.filter(([x, y]) => x === y).length / n;
  const kappa = weightedKappa(twice, 3);
  const who = of === 'self' ? 'Asked again, the same answer came' : 'Two judges gave the same answer';
  return { pairs: n, alike, kappa, words: `${who} ${timesIn(Math.round(alike * n), n)}.` };
}

const timesIn = (times: number, n: number) => `${write(many(times, 'time'))} in ${n}`;

/** Each answer with the one before it: so many as a pair was asked again. */
const eachWithNext = (said: readonly number[]): [number, number][] =>
  said.slice(1).map((answer, i) => [said[i], answer]);

/** The last answer of each judge with that of each other. */
const eachWithEach = (judges: readonly (readonly number[])[]): [number, number][] =>
  judges.flatMap((own, i) =>
    judges.slice(i + 1).map((other): [number, number] => [own[own.length - 1], other[other.length - 1]]),
  );

/** Cohen's kappa with quadratic weights over `k` ordered classes; nothing where one class is all there is. */
export function weightedKappa(
  ratings: readonly (readonly [number, number])[],
  k: number,
): number | undefined {
  const n = ratings.length;
  const off = (x: number, y: number) => ((x - y) / (k - 1)) ** 2;
  const seen = ratings.reduce((sum, [x, y]) => sum + off(x, y), 0) / n;
  let byChance = 0;
  for (let x = 0; x < k; x++)
    for (let y = 0; y < k; y++) {
      const px = ratings.filter(r => r[0] === x).length / n;
      const py = ratings.filter(r => r[1] === y).length / n;
      byChance += px * py * off(x, y);
    }
  return byChance > 0 ? 1 - seen / byChance : undefined;
}

/** How well judges grade alike. */
export interface GradedAlike {
  /** Patches that each of these judges graded. */
  readonly patches: number;
  readonly judges: readonly string[];
  /** Intraclass correlation of a single judge's grades. */
  readonly icc: number;
  readonly words: string;
}

/** Fewer patches than this tell nothing of how alike judges grade. */
const LEAST_GRADED = 4;

/**
 * How well judges agree in their grades: over the patches that all of them graded, the last grade of each counting.
 * Nothing for fewer than two judges or four such patches, or where all grades are the same. In words by Koo and Li
 * (2016, J. Chiropr. Med. 15:155): below 0.5 poor, to 0.75 fair, to 0.9 good.
 *
 * @example gradedAlike([]); // => undefined
 */
export function gradedAlike(records: readonly TrialRecord[]): GradedAlike | undefined {
  const given = new Map<string, Map<string, number>>();
  for (const r of standing(records))
    if (r.kind === 'verdict' && r.patch && r.judge)
      given.set(r.patch, (given.get(r.patch) ?? new Map()).set(r.judge, r.grade));
  const judges = [...new Set([...given.values()].flatMap(g => [...g.keys()]))].sort();
  const both = [...given.values()].filter(g => judges.every(j => g.has(j)));
  if (judges.length < 2 || both.length < LEAST_GRADED) return undefined;
  const icc = intraclass(both.map(g => judges.map(j => g.get(j)!)));
  if (icc === undefined) return undefined;
  const how =
    icc < 0.5 ? 'hardly alike' : icc < 0.75 ? 'fairly alike' : icc < 0.9 ? 'alike' : 'very much alike';
  const who = `${judges.slice(0, -1).join(', ')} and ${judges.at(-1)}`;
  return {
    patches: both.length,
    ...{ judges, icc },
    words: `${who} grade ${how}, over ${both.length} patches that each of them graded.`,
  };
}

/**
 * Intraclass correlation ICC(2,1), rows judged by the same columns taken at random, absolute agreement of a single
 * judge (Shrout and Fleiss 1979, Psychol. Bull. 86:420). At most 1; nothing where nothing differs.
 *
 * @example intraclass([[1, 1], [3, 3], [5, 5]]); // => 1
 */
export function intraclass(table: readonly (readonly number[])[]): number | undefined {
  const n = table.length;
  const k = table[0]?.length ?? 0;
  if (n < 2 || k < 2) return undefined;
  const mean = (values: readonly number[]) => values.reduce((a, b) => a + b, 0) / values.length;
  const all = mean(table.flat());
  const rows = table.map(mean);
  const columns = table[0].map((_, j) => mean(table.map(row => row[j])));
  const squares = (values: readonly number[]) => values.reduce((sum, v) => sum + (v - all) ** 2, 0);
  const between = (k * squares(rows)) / (n - 1);
  const judges = (n * squares(columns)) / (k - 1);
  const rest = (squares(table.flat()) - k * squares(rows) - n * squares(columns)) / ((n - 1) * (k - 1));
  const whole = between + (k - 1) * rest + (k * (judges - rest)) / n;
  return whole > 0 ? (between - rest) / whole : undefined;
}
