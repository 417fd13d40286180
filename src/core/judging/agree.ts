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
 * judged twice, the kappa of Cohen (1968, Psychol. Bull. 70:213) with quadratic weights, `neither` half way.
 *
 * @example agreement([], 'self').pairs; // => 0
 */
export function agreement(pairs: readonly Pair[], of: 'self' | 'others'): Agreement {
  const twice: [number, number][] = [];
  for (let i = 0; i < pairs.length; i++)
    for (let j = i + 1; j < pairs.length; j++) {
      const [p, q] = [pairs[i], pairs[j]];
      if ((p.judge === q.judge) !== (of === 'self')) continue;
      const isSame = p.a === q.a && p.b === q.b;
      if (!isSame && !(p.a === q.b && p.b === q.a)) continue;
      twice.push([RANK[p.better], isSame ? RANK[q.better] : 2 - RANK[q.better]]);
    }
  const n = twice.length;
  if (!n) return { pairs: 0, alike: 0, kappa: undefined, words: 'No pair was judged twice yet.' };
  const alike = twice.filter(([x, y]) => x === y).length / n;
  const kappa = weightedKappa(twice, 3);
  const who = of === 'self' ? 'Asked again, the same answer came' : 'Two judges gave the same answer';
  return { pairs: n, alike, kappa, words: `${who} ${Math.round(alike * n)} times in ${n}.` };
}

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
