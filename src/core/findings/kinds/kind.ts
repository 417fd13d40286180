import type { AsResponse } from '../../measures/index.ts';
import { timesIn10 } from '../../say/index.ts';
import type { TrialPlan, TrialRecord } from '../../trial/index.ts';

/**
 * Something that a trial can be judged by: where its values come from, which way is better, and its words. Adding one is
 * a file here and a line in `index.ts`; findings, charts, tables and trade-offs go by this table.
 */
export interface Kind<Id extends string = string> {
  readonly id: Id;
  readonly name: string;
  readonly goal: 'more' | 'less';
  readonly response: AsResponse;
  /** It is yes or no: what counts is how often it is yes. */
  readonly isChance?: boolean;
  /** Values by patch; those of which nothing is known are not in it. */
  values(plan: TrialPlan, records: readonly TrialRecord[]): ReadonlyMap<string, number>;
  /** What failed in it, where that is not what failed altogether. */
  failed?(plan: TrialPlan, records: readonly TrialRecord[]): (code: string) => boolean;
}

/**
 * Ordered classes by patch as what counts in them: how often a patch's is higher than one of this trial taken at random,
 * half of the ties counted, times in ten (ridits relative to an identified distribution: Bross 1958, Biometrics 14:18).
 */
export function ridits(classes: ReadonlyMap<string, number>): ReadonlyMap<string, number> {
  const all = [...classes.values()];
  const share = (own: number) =>
    all.reduce((sum, c) => sum + (c < own ? 1 : c === own ? 0.5 : 0), 0) / all.length;
  return new Map([...classes].map(([code, own]) => [code, 10 * share(own)]));
}

/** How a chance against a patch taken at random speaks: times in ten. */
export const timesInTen = (noun: string, more: string, better: string): AsResponse => ({
  ...{ noun, more, heading: `${better} than a patch taken at random, times in 10` },
  difference: timesIn10,
  ...{ scale: { most: 10 }, bounds: [0, 10], digits: 1, figures: 1 },
});
