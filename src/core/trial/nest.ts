import { FACTORS, ofAnyMethod } from '../factors/index.ts';
import type { Method } from '../methods/schema.ts';
import { type Factor, NO_LEVEL } from './schema.ts';

/**
 * Whether a factor is varied in a method: it is not kept to others, and the method has that setting, and of its own
 * choices all that are compared.
 *
 * @example isVariedIn({ key: 'coatMm', levels: [0.2, 0.5] }, plan.used.method); // => true
 */
export function isVariedIn(factor: Factor, method: Pick<Method, 'id' | 'vary' | 'options'>): boolean {
  if (ofAnyMethod(factor.key)) return true;
  if ((factor.of && !factor.of.includes(method.id)) || !method.vary.includes(factor.key)) return false;
  const kind = FACTORS[factor.key];
  if (kind.levels !== 'options') return true;
  const ids = method.options[kind.option].map(o => o.id);
  return factor.levels.every(l => ids.includes(String(l)));
}

/** Which factors are varied in which level of the method: `has[factor][level]`, and the place of the method. */
export interface Nest {
  readonly by: number;
  readonly has: readonly (readonly boolean[])[];
}

/**
 * How settings are nested in the methods compared; nothing where every factor is varied in all of them.
 *
 * @example nestOf(plan.factors, [plan.used.method]); // => undefined
 */
export function nestOf(factors: readonly Factor[], methods: readonly Method[]): Nest | undefined {
  const by = factors.findIndex(f => f.key === 'method');
  if (by < 0) return undefined;
  const has = factors.map(f =>
    factors[by].levels.map(id => {
      const method = methods.find(m => m.id === id);
      return method !== undefined && isVariedIn(f, method);
    }),
  );
  return has.every(row => row.every(Boolean)) ? undefined : { by, has };
}

/**
 * A combination without the levels that its method does not have.
 *
 * @example inMethod({ by: 0, has: [[true, true], [true, false]] }, [1, 1]); // => [1, -1]
 */
export const inMethod = ({ by, has }: Nest, levels: readonly number[]): number[] =>
  levels.map((level, f) => (has[f][levels[by]] ? level : NO_LEVEL));

/**
 * How many different combinations of so many levels there are: of each method those of the settings it has.
 *
 * @example combinationCount([2, 3], { by: 0, has: [[true, true], [true, false]] }); // => 4
 */
export const combinationCount = (counts: readonly number[], nest?: Nest): number =>
  nest
    ? Array.from({ length: counts[nest.by] }, (_, m) =>
        counts.reduce((n, count, f) => (f === nest.by || !nest.has[f][m] ? n : n * count), 1),
      ).reduce((a, b) => a + b, 0)
    : counts.reduce((a, b) => a * b, 1);

/**
 * Combinations as they are in their methods, each once.
 *
 * @example eachOnce([[0, 0], [0, 1]], { by: 0, has: [[true], [false]] }); // => [[0, -1]]
 */
export const eachOnce = (all: readonly number[][], nest: Nest): number[][] => [
  ...new Map(all.map(levels => inMethod(nest, levels)).map(levels => [levels.join(), levels])).values(),
];
