import { uniformFloat64 } from 'pure-rand/distribution/uniformFloat64';
import { uniformInt } from 'pure-rand/distribution/uniformInt';
import { xoroshiro128plus } from 'pure-rand/generator/xoroshiro128plus';

/** A seeded source of chance: the same seed gives the same plan, the same simulated photo. */
export interface Chance {
  /** Uniform in [0, 1). */
  next(): number;
  /** Whole number in [lo, hi], both included. */
  whole(lo: number, hi: number): number;
  /** Uniform in [lo, hi). */
  between(lo: number, hi: number): number;
  /** Normal with the given mean and standard deviation (Box–Muller). */
  normal(mean?: number, sd?: number): number;
  /** Gamma variate of unit rate (Marsaglia & Tsang 2000, ACM Trans. Math. Softw. 26:363). */
  gamma(shape: number): number;
  /** Poisson count with the given mean (Knuth's product method; for means below about 50). */
  poisson(mean: number): number;
  /** A new array with the items in random order (Fisher–Yates). */
  shuffle<T>(items: readonly T[]): T[];
  pick<T>(items: readonly T[]): T;
}

/**
 * Makes a {@link Chance} from a whole-number seed.
 *
 * @example chanceFrom(7).whole(1, 1); // => 1
 */
export function chanceFrom(seed: number): Chance {
  const generator = xoroshiro128plus(seed | 0);
  const next = () => uniformFloat64(generator);
  const whole = (lo: number, hi: number) => uniformInt(generator, lo, hi);
  const shuffle = <T>(items: readonly T[]): T[] => {
    const out = [...items];
    for (let i = out.length - 1; i > 0; i--) {
      const j = whole(0, i);
      [out[i], out[j]] = [out[j], out[i]];
    }
    return out;
  };
  const normal = (mean = 0, sd = 1) =>
    mean + sd * Math.sqrt(-2 * Math.log(1 - next())) * Math.cos(2 * Math.PI * next());
  const gamma = (shape: number): number => {
    if (shape < 1) return gamma(shape + 1) * Math.max(1e-300, next()) ** (1 / shape);
    const d = shape - 1 / 3;
    const c = 1 / Math.sqrt(9 * d);
    for (;;) {
      const x = normal();
      const v = (1 + c * x) ** 3;
      if (v > 0 && Math.log(next()) < 0.5 * x * x + d - d * v + d * Math.log(v)) return d * v;
    }
  };
  return {
    next,
    whole,
    between: (lo, hi) => lo + (hi - lo) * next(),
    normal,
    gamma,
    poisson: mean => {
      const limit = Math.exp(-mean);
      let count = 0;
      for (let product = next(); product > limit; product *= next()) count++;
      return count;
    },
    shuffle,
    pick: items => items[whole(0, items.length - 1)],
  };
}

/**
 * A seed from a string, so that each patch has its own stream (FNV-1a, 32 bit).
 *
 * @example seedOf('K7') === seedOf('K7'); // => true
 */
export function seedOf(text: string): number {
  let hash = 0x811c9dc5;
  for (let i = 0; i < text.length; i++) hash = Math.imul(hash ^ text.charCodeAt(i), 0x01000193);
  return hash >>> 0;
}
