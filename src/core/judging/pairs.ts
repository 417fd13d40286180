import { inverse, Matrix } from 'ml-matrix';
import { many, write } from '../say/index.ts';

/** Two patches that were compared: which is better, or neither. */
export interface Pair {
  readonly a: string;
  readonly b: string;
  readonly better: 'a' | 'b' | 'neither';
  readonly judge: string;
}

/** An order of patches as pairs have it. */
export interface Ranking {
  /** The best first; `worth` on the log scale about nought, `se` its standard error. */
  readonly order: readonly { readonly code: string; readonly worth: number; readonly se: number }[];
  /** How readily neither is better: 0 never; Davidson's ν. */
  readonly ties: number;
  /** Chance that neighbours in the order stand as they are, over all neighbours: the least of them. */
  readonly sureOfOrder: number;
  /** Chance that the first is better than each other, the least of them. */
  readonly sureOfFirst: number;
}

/** Half a win and half a loss against a patch of middling worth, for each: an order is finite from the first pair on. */
const PRIOR = 0.5;
const ROUNDS = 400;

/**
 * Fits the worths of patches to pairs by the model of Bradley and Terry with ties after Davidson (1970, J. Am. Stat.
 * Assoc. 65:317): P(a beats b) = πa / D, P(neither) = ν·√(πa·πb) / D, D = πa + πb + ν·√(πa·πb); a weak prior of
 * {@link PRIOR} comparisons with a patch of worth 1 keeps it finite. Newton's method on the log scale. `prior: 0` is the
 * plain maximum of the likelihood, which needs every patch to have won and lost.
 *
 * @example rankingOf(['x', 'y'], [{ a: 'x', b: 'y', better: 'a', judge: '' }]).order[0].code; // => 'x'
 */
export function rankingOf(
  codes: readonly string[],
  pairs: readonly Pair[],
  { prior = PRIOR }: { readonly prior?: number } = {},
): Ranking {
  const n = codes.length;
  const at = new Map(codes.map((c, i) => [c, i]));
  const seen = pairs.flatMap(p => {
    const [a, b] = [at.get(p.a), at.get(p.b)];
    return a === undefined || b === undefined || a === b ? [] : [{ a, b, better: p.better }];
  });
  const hasTies = seen.some(p => p.better === 'neither');
  const worth = new Float64Array(n);
  let tie = hasTies ? 0 : Number.NEGATIVE_INFINITY;
  let information = new Matrix(1, 1);
  for (let round = 0; round < ROUNDS; round++) {
    const size = n + (hasTies ? 1 : 0);
    const score = new Float64Array(size);
    information = Matrix.zeros(size, size);
    const add = (i: number, j: number, v: number) => information.set(i, j, information.get(i, j) + v);
    for (const { a, b, better } of seen) {
      // The three outcomes have log weights wa, wb and tie + (wa + wb)/2.
      const w = [worth[a], worth[b], tie + (worth[a] + worth[b]) / 2];
      const top = Math.max(...w);
      const e = w.map(v => Math.exp(v - top));
      const total = e[0] + e[1] + e[2];
      const p = e.map(v => v / total);
      const cols: [number, number[]][] = [
        [a, [1, 0, 0.5]],
        [b, [0, 1, 0.5]],
        ...(hasTies ? [[n, [0, 0, 1]] as [number, number[]]] : []),
      ];
      const k = better === 'a' ? 0 : better === 'b' ? 1 : 2;
      const mean = cols.map(([, d]) => d[0] * p[0] + d[1] * p[1] + d[2] * p[2]);
      cols.forEach(([i, d], x) => {
        score[i] += d[k] - mean[x];
        cols.forEach(([j, f], y) => {
          add(i, j, d[0] * f[0] * p[0] + d[1] * f[1] * p[1] + d[2] * f[2] * p[2] - mean[x] * mean[y]);
        });
      });
    }
    for (let i = 0; i < n; i++) {
      const p = 1 / (1 + Math.exp(-worth[i]));
      score[i] += prior * (1 - 2 * p);
      add(i, i, 2 * prior * p * (1 - p));
      // Without a prior the worths are only known against each other.
      if (prior === 0) for (let j = 0; j < n; j++) add(i, j, 1 / n);
    }
    if (hasTies) {
      // As weak on the ties: half a tie, and half none, in a pair of equals.
      const p = Math.exp(tie) / (2 + Math.exp(tie));
      score[n] += prior * (1 - 2 * p);
      add(n, n, 2 * prior * p * (1 - p) + 1e-9);
    }
    const move = inverse(information, true)
      .mmul(Matrix.columnVector([...score]))
      .to1DArray();
    const long = Math.max(...move.map(Math.abs));
    const share = Math.min(1, 2 / (long || 1));
    for (let i = 0; i < n; i++) worth[i] += share * move[i];
    if (hasTies) tie += share * move[n];
    if (share * long < 1e-10) break;
  }
  const mean = worth.reduce((a, b) => a + b, 0) / (n || 1);
  const spread = inverse(information, true);
  const order = codes
    .map((code, i) => ({ code, i, worth: worth[i] - mean, se: Math.sqrt(Math.max(0, spread.get(i, i))) }))
    .sort((a, b) => b.worth - a.worth);
  const above = (x: { i: number; worth: number }, y: { i: number; worth: number }) => {
    const variance = spread.get(x.i, x.i) + spread.get(y.i, y.i) - 2 * spread.get(x.i, y.i);
    return normal((x.worth - y.worth) / Math.sqrt(Math.max(1e-9, variance)));
  };
  return {
    order: order.map(({ i: _, ...o }) => o),
    ties: hasTies ? Math.exp(tie) : 0,
    sureOfOrder: Math.min(1, ...order.slice(1).map((o, k) => above(order[k], o))),
    sureOfFirst: Math.min(1, ...order.slice(1).map(o => above(order[0], o))),
  };
}

/** The normal distribution (Abramowitz and Stegun 1964, 26.2.17; error below 7.5e-8). */
function normal(x: number): number {
  const t = 1 / (1 + 0.2316419 * Math.abs(x));
  const tail =
    ((((1.330274429 * t - 1.821255978) * t + 1.781477937) * t - 0.356563782) * t + 0.31938153) *
    t *
    Math.exp((-x * x) / 2) *
    0.3989422804014327;
  return x >= 0 ? 1 - tail : tail;
}

/** As sure as this the question is settled. */
const SETTLED = 0.9;
/** Every so many pairs one is shown again that was judged before: how well a judge agrees with herself. */
const AGAIN_EVERY = 6;

/** To put n things in order takes log2(n!) yes-or-no answers; a judge is asked so many times as many, those shown again among them. */
const OF_THE_LEAST = 1.35;

/**
 * How many pairs one judge is asked for at the most: after that the order stands as it is, however sure. 40 or fewer
 * of twelve patches.
 *
 * @example mostPairs(12); // => 39
 */
export function mostPairs(patches: number): number {
  let bits = 0;
  for (let k = 2; k <= patches; k++) bits += Math.log2(k);
  return Math.floor(OF_THE_LEAST * bits) + (patches > 1 ? 1 : 0);
}

/**
 * How many pairs are left for a judge at the most; nought when there is none.
 *
 * @example pairsLeft(['x', 'y'], [], 'me'); // => 2
 */
export const pairsLeft = (codes: readonly string[], pairs: readonly Pair[], judge: string): number =>
  nextPair(codes, pairs, judge) ? mostPairs(codes.length) - pairs.filter(p => p.judge === judge).length : 0;

/**
 * The next pair to compare, the one whose outcome is least known and whose patches were compared least; every sixth one
 * again that was seen before, the other way round. Each judge has pairs of their own. Nothing when their order is settled
 * (the first is better than each other with nine chances in ten and neighbours stand as they are with three in four), or
 * they were asked for {@link mostPairs}.
 *
 * @example nextPair(['x'], [], 'me'); // => undefined
 */
export function nextPair(
  codes: readonly string[],
  pairs: readonly Pair[],
  judge: string,
): { readonly a: string; readonly b: string } | undefined {
  if (codes.length < 2) return undefined;
  const own = pairs.filter(p => p.judge === judge);
  if (own.length >= mostPairs(codes.length)) return undefined;
  const { order, sureOfOrder, sureOfFirst } = rankingOf(codes, own);
  const least = Math.min(...codes.map(c => own.filter(p => p.a === c || p.b === c).length));
  if (least >= 2 && sureOfFirst >= SETTLED && sureOfOrder >= 0.75) return undefined;
  const key = (a: string, b: string) => [a, b].sort().join(' ');
  const count = new Map<string, number>();
  for (const p of own) count.set(key(p.a, p.b), (count.get(key(p.a, p.b)) ?? 0) + 1);
  if (own.length > 0 && own.length % AGAIN_EVERY === 0) {
    const once = own.find(p => own.filter(q => key(q.a, q.b) === key(p.a, p.b)).length === 1);
    if (once) return { a: once.b, b: once.a };
  }
  let best: { a: string; b: string; gain: number } | undefined;
  for (let i = 0; i < order.length; i++)
    for (let j = i + 1; j < order.length; j++) {
      const [x, y] = [order[i], order[j]];
      const times = count.get(key(x.code, y.code)) ?? 0;
      if (times >= 3) continue;
      const p = 1 / (1 + Math.exp(y.worth - x.worth));
      const gain = (p * (1 - p) * (x.se ** 2 + y.se ** 2)) / (1 + times);
      // Which of the two stands left changes from pair to pair.
      const [a, b] = (i + j + own.length) % 2 ? [x.code, y.code] : [y.code, x.code];
      if (!best || gain > best.gain) best = { a, b, gain };
    }
  return best && { a: best.a, b: best.b };
}

/**
 * How far a judge is with their pairs, in a sentence: how many there were and how many are left at the most; at the end
 * whether their order is settled, or they are as alike as that.
 *
 * @example soFar(['x', 'y'], [], 'me'); // => 'No pair yet, 2 at the most.'
 */
export function soFar(codes: readonly string[], pairs: readonly Pair[], judge: string): string {
  const own = pairs.filter(p => p.judge === judge);
  const left = pairsLeft(codes, pairs, judge);
  const sure = Math.round(100 * rankingOf(codes, own).sureOfFirst);
  const count = write(many(own.length, 'pair'));
  if (left) return own.length ? `${count}, ${left} more at the most.` : `No pair yet, ${left} at the most.`;
  return sure >= 100 * SETTLED
    ? `That is enough: your order is settled after ${count}, the first place ${sure} % sure.`
    : `That is enough: more than ${count} would hardly tell more. The best ones are that alike; the first place is ${sure} % sure.`;
}
