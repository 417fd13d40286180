import { bad, good, type Outcome } from '../outcome/index.ts';
import { logGamma } from './power.ts';

const logBeta = (a: number, b: number) => logGamma(a) + logGamma(b) - logGamma(a + b);
const logChoose = (n: number, k: number) => logGamma(n + 1) - logGamma(k + 1) - logGamma(n - k + 1);

/**
 * Chance of at least `wanted` good pieces among `made`, when `goodSoFar` of `seen` were good: beta-binomial with
 * a uniform prior (Gelman et al. 2013, §2.4).
 *
 * @example chanceOf(2, 2, 0, 0).toFixed(3); // => '0.333'
 */
export function chanceOf(wanted: number, made: number, goodSoFar: number, seen: number): number {
  if (wanted <= 0) return 1;
  if (wanted > made) return 0;
  const a = goodSoFar + 1;
  const b = seen - goodSoFar + 1;
  let sum = 0;
  for (let k = wanted; k <= made; k++)
    sum += Math.exp(logChoose(made, k) + logBeta(a + k, b + made - k) - logBeta(a, b));
  return Math.min(1, sum);
}

const MOST_PIECES = 500;
/** Far more than sums of logarithms are off, far less than anybody could tell. */
const ROUNDING = 1e-9;

/**
 * How many pieces to make for `wanted` good ones with the given certainty, from `goodSoFar` good of `seen`.
 * Fails with a sentence for counts that make no sense, or when more than 500 would be needed.
 */
export function piecesFor(
  wanted: number,
  goodSoFar: number,
  seen: number,
  certainty = 0.9,
): Outcome<{ readonly pieces: number; readonly chance: number }> {
  const whole = [wanted, goodSoFar, seen].every(n => Number.isInteger(n) && n >= 0);
  if (!whole || wanted < 1) return bad('counts', 'Write whole numbers, and at least one good piece wanted.');
  if (goodSoFar > seen) return bad('counts', 'There cannot be more good pieces than pieces.');
  for (let pieces = wanted; pieces <= MOST_PIECES; pieces++) {
    const chance = chanceOf(wanted, pieces, goodSoFar, seen);
    // Three in four is three in four, whatever the last digit of a logarithm makes of it.
    if (chance >= certainty - ROUNDING) return good({ pieces, chance });
  }
  return bad(
    'hopeless',
    `Even ${MOST_PIECES} pieces would not be enough to be ${Math.round(certainty * 100)} % sure.`,
    'Find a better way first.',
  );
}
