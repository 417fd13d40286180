import { about, type TrialPlan, type TrialRecord } from '../trial/index.ts';
import type { Cause } from './causes.ts';

/** How often each cause turned out to be the one, by its id. */
export type Turned = Readonly<Record<string, number>>;

/** What is known before anybody said anything counts as so many failures looked into. */
export const PRIOR_FAILURES = 25;

/**
 * What the maker said the cause of each patch really was, by patch; nothing where it was none that is known.
 *
 * @example turnedOut(plan, []).size; // => 0
 */
export function turnedOut(
  plan: TrialPlan,
  records: readonly TrialRecord[],
): ReadonlyMap<string, string | null> {
  return new Map(
    plan.patches.flatMap(({ code }) => {
      const said = about(records, code, 'cause').at(-1);
      return said ? [[code, said.cause] as const] : [];
    }),
  );
}

/** How often each cause turned out to be the one in a trial; those that are none of ours are left out. */
export function countTurned(plan: TrialPlan, records: readonly TrialRecord[]): Turned {
  const counts: Record<string, number> = {};
  for (const cause of turnedOut(plan, records).values()) if (cause) counts[cause] = (counts[cause] ?? 0) + 1;
  return counts;
}

/**
 * How often each turned out, over several trials.
 *
 * @example addTurned([{ dust: 1 }, { dust: 2 }]).dust; // => 3
 */
export function addTurned(all: readonly Turned[]): Turned {
  const sum: Record<string, number> = {};
  for (const counts of all)
    for (const [cause, n] of Object.entries(counts)) sum[cause] = (sum[cause] ?? 0) + n;
  return sum;
}

/**
 * What is added to the prior log odds of each cause by what turned out in this workshop: the logarithm of its share
 * among failures after, against before. Shares have a Dirichlet prior in proportion to the prior odds that is worth
 * {@link PRIOR_FAILURES} failures (Gelman et al., Bayesian Data Analysis, 2013, §3.4).
 *
 * @example shiftsFrom([], {}); // => {}
 */
export function shiftsFrom(causes: readonly Cause[], turned: Turned): Readonly<Record<string, number>> {
  const odds = causes.map(c => Math.exp(c.prior));
  const whole = odds.reduce((a, b) => a + b, 0);
  const seen = causes.reduce((sum, c) => sum + (turned[c.id] ?? 0), 0);
  return Object.fromEntries(
    causes.map(({ id }, i) => {
      const before = odds[i] / whole;
      const after = (PRIOR_FAILURES * before + (turned[id] ?? 0)) / (PRIOR_FAILURES + seen);
      return [id, Math.log(after / before)];
    }),
  );
}
