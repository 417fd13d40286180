import { chanceFrom } from '../random/index.ts';
import { type Rule, type RuleContext, stopsFor } from '../rules/index.ts';
import {
  chosenOf,
  combinationCount,
  eachOnce,
  lookUp,
  methodsOf,
  nestOf,
  sizeOf,
  type TrialPlan,
} from '../trial/index.ts';
import { allCombinations } from './randomise.ts';
import type { PlanRequest } from './request.ts';

/** The combinations a plan may use, and why others are left out. */
export interface Feasible {
  readonly runs: readonly (readonly number[])[];
  /** How many combinations are possible; more than `runs` when they were too many to list. */
  readonly total: number;
  readonly leftOut: readonly { why: string; count: number }[];
  readonly firstStop?: Rule;
  /** A rule that stops combinations with this level. */
  stopOf(factor: number, level: number): Rule | undefined;
}

/** Beyond this many combinations a random sample of them stands for all. */
export const MOST_LISTED = 6000;

type Asked = Pick<
  PlanRequest,
  'usual' | 'factors' | 'air' | 'patchMm' | 'patchTallMm' | 'wear' | 'overrides' | 'seed'
> &
  Partial<Pick<PlanRequest, 'method' | 'compared'>>;

/** The longer side of a patch: what a sheet has to be smooth over. */
const longest = (ask: Asked): number => Math.max(sizeOf(ask).w, sizeOf(ask).h);

/** The rule context of one combination. */
export const contextOf = (ask: Asked, used: TrialPlan['used'], levels: readonly number[]): RuleContext => {
  const settings = lookUp(used, chosenOf(ask, levels));
  return { settings, method: settings.method, air: ask.air, patchMm: longest(ask), wear: ask.wear };
};

/**
 * Sorts the combinations of a request into feasible ones and those that rules stop. Combinations that differ only in what
 * their method does not have are one.
 */
export function feasibleOf(ask: Asked, used: TrialPlan['used']): Feasible {
  const counts = ask.factors.map(f => f.levels.length);
  const nest = nestOf(ask.factors, methodsOf({ used }));
  const crossed = counts.reduce((a, b) => a * b, 1);
  const listed = crossed <= MOST_LISTED ? allCombinations(counts) : sample(counts, ask.seed);
  const all = nest ? eachOnce(listed, nest) : listed;
  const total = crossed <= MOST_LISTED ? all.length : combinationCount(counts, nest);
  const runs: number[][] = [];
  const stops = new Map<string, { rule: Rule; count: number }>();
  const stopped: { levels: readonly number[]; rule: Rule }[] = [];
  for (const levels of all) {
    const [rule] = stopsFor(contextOf(ask, used, levels), ask.overrides);
    if (!rule) {
      runs.push(levels);
      continue;
    }
    stopped.push({ levels, rule });
    const entry = stops.get(rule.id) ?? { rule, count: 0 };
    entry.count++;
    stops.set(rule.id, entry);
  }
  const share = total / all.length;
  return {
    runs,
    total: crossed <= MOST_LISTED ? runs.length : Math.round(runs.length * share),
    leftOut: [...stops.values()].map(({ rule, count }) => ({
      why: rule.why,
      count: Math.round(count * share),
    })),
    firstStop: stopped[0]?.rule,
    stopOf: (factor, level) => stopped.find(s => s.levels[factor] === level)?.rule,
  };
}

/** Different combinations at random, every level of every factor among them. */
function sample(counts: readonly number[], seed: number): number[][] {
  const chance = chanceFrom(seed);
  const found = new Map<string, number[]>();
  while (found.size < MOST_LISTED) {
    const levels = counts.map(n => chance.whole(0, n - 1));
    found.set(levels.join(), levels);
  }
  return [...found.values()];
}
