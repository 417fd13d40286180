import type { TrialPlan, TrialRecord } from '../trial/index.ts';
import { benchOf, nextAction } from './status.ts';

/** When a plan would be finished, and the work it takes, if one person worked through it without a pause. */
export interface Forecast {
  readonly endsAt: number;
  readonly handsOnMin: number;
}

/**
 * Plays a trial forward from `start` (ms) with one pair of hands: does what {@link nextAction}
 * says, for as long as the step takes, and jumps over the waits. Records that exist already count.
 */
export function forecast(plan: TrialPlan, records: readonly TrialRecord[], start: number): Forecast {
  const bench = benchOf(plan, records);
  let now = start;
  let handsOnMin = 0;
  for (;;) {
    const action = nextAction(bench, now);
    if (action.kind === 'finished') return { endsAt: now, handsOnMin };
    now = Math.max(now, action.status.window?.aim ?? now) + action.link.step.handsOnMin * 60_000;
    handsOnMin += action.link.step.handsOnMin;
    const line = bench.lines.find(l => l.patch === action.patch)!;
    line.doneAt[line.chain.indexOf(action.link)] = now;
  }
}
