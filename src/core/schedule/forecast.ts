import { alsoNow, progressOf } from '../progress/index.ts';
import { handsOnMin } from '../steps/index.ts';
import type { TrialPlan, TrialRecord } from '../trial/index.ts';
import { nextAction } from './next-action.ts';

/** When a plan would be finished, and the work it takes, if one person worked through it without a pause. */
export interface Forecast {
  readonly endsAt: number;
  readonly handsOnMin: number;
}

/**
 * Plays a trial forward from `start` (ms) with one pair of hands: does what {@link nextAction}
 * says, for as long as the step takes, and jumps over the waits. Records that exist already count.
 *
 * @example forecast(plan, [], start).endsAt > start; // => true
 */
export function forecast(plan: TrialPlan, records: readonly TrialRecord[], start: number): Forecast {
  const { lines: as, ...rest } = progressOf(plan, records);
  // Its own copy of what is done, to go on with.
  const played = as.map(line => ({ ...line, doneAt: [...line.doneAt] }));
  const progress = { ...rest, lines: played };
  let now = start;
  let work = 0;
  for (;;) {
    const action = nextAction(progress, now);
    if (action.kind === 'finished') return { endsAt: now, handsOnMin: work };
    const go = [action.patch.code, ...alsoNow(progress, action.patch.code, action.link)];
    const lines = played.filter(l => go.includes(l.patch.code));
    const minutes = lines.reduce((sum, line) => sum + handsOnMin(action.link.step, line), 0);
    now = Math.max(now, action.status.window?.aim ?? now) + minutes * 60_000;
    work += minutes;
    for (const { chain, doneAt } of lines)
      doneAt[chain.findIndex(l => l.step.id === action.link.step.id && l.round === action.link.round)] = now;
  }
}
