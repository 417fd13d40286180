import { patchCost } from '../design/index.ts';
import type { Decision } from '../models/index.ts';
import { chainOf, handled, handsOnMin, preparedTogether, waitAfter } from '../steps/index.ts';
import { type Patch, settingsOf, type TrialPlan } from '../trial/index.ts';
import type { Air } from '../units/index.ts';

/** A combination as a choice between what it gives and what it takes. */
export interface TradeOff {
  readonly levels: readonly number[];
  /** What it is worth for what is wanted, 0 to 100, with nine in ten of what the patches allow. */
  readonly score: { readonly value: number; readonly lo: number; readonly hi: number };
  /** Of one patch: money in the shelf's currency, minutes of hands, hours from the first touch to the last wait. */
  readonly cost: number;
  readonly minutes: number;
  readonly hours: number;
  /** Chance that no other is better in one of the four and as good in all. */
  readonly front: number;
}

/** What a patch of a combination takes: money, hands, and the time until it is done in this air. */
export function takenBy(
  plan: TrialPlan,
  patch: Patch,
  air: Air,
): Pick<TradeOff, 'cost' | 'minutes' | 'hours'> {
  const settings = settingsOf(plan, patch);
  const joined = { settings, preparedWith: preparedTogether(plan).get(patch.code) ?? [patch.code] };
  let [minutes, all] = [0, 0];
  // Wearing it on purpose, and marking it, are the trial's.
  for (const { step } of chainOf({ ...plan, wear: [] }, patch)) {
    if (step.does === 'mark') continue;
    const own = handled(step, handsOnMin(step, joined), waitAfter(step, settings, air));
    minutes += own.hands;
    all += own.hands + (own.wait?.aim ?? 0);
  }
  return { cost: patchCost(plan, settings), minutes, hours: all / 60 };
}

/** Nearer than this, shares of what is compared, two combinations take the same. */
const SAME = 0.005;

/**
 * The combinations that were tried, each with what it is worth and what it takes, and the chance that it lies on the front
 * of those that no other beats in everything (Pareto): drawn, so that what is uncertain stays so.
 *
 * @param options as in `decision`.
 */
export function tradeOffsIn(
  plan: TrialPlan,
  options: readonly (readonly number[])[],
  { options: said, worlds }: Pick<Decision, 'options' | 'worlds'>,
  air: Air,
): TradeOff[] {
  const taken = options.map(levels => {
    const patch = plan.patches.find(p => p.levels.join() === levels.join())!;
    return takenBy(plan, patch, air);
  });
  const noMore = (a: number, b: number) => a <= b * (1 + SAME) + 1e-9;
  const less = (a: number, b: number) => a < b * (1 - SAME) - 1e-9;
  return options.map((levels, i) => {
    const own = taken[i];
    const rivals = taken.flatMap((t, j) =>
      j !== i && noMore(t.cost, own.cost) && noMore(t.minutes, own.minutes) && noMore(t.hours, own.hours)
        ? [{ j, isLess: less(t.cost, own.cost) || less(t.minutes, own.minutes) || less(t.hours, own.hours) }]
        : [],
    );
    const beaten = worlds.filter(({ worth }) =>
      rivals.some(({ j, isLess }) => (isLess ? worth[j] >= worth[i] : worth[j] > worth[i])),
    ).length;
    const { value, lo, hi } = said[i];
    return {
      levels,
      score: { value, lo, hi },
      ...own,
      front: worlds.length ? 1 - beaten / worlds.length : 0,
    };
  });
}
