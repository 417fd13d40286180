import { alsoNow, progressOf } from '../src/core/progress/index.ts';
import { chanceFrom } from '../src/core/random/index.ts';
import { nextAction } from '../src/core/schedule/index.ts';
import { handsOnMin } from '../src/core/steps/index.ts';
import type { TrialPlan, TrialRecord } from '../src/core/trial/index.ts';

/** The air from a moment on, hours after the beginning. */
export interface AirFrom {
  readonly afterHours: number;
  readonly air: { readonly tempC: number; readonly rh: number };
}

/** Plays the bench from `start` until `end`, a little late at every step, as people are. */
export function play(
  trial: TrialPlan,
  start: number,
  end: number,
  airs: readonly AirFrom[] = [],
): TrialRecord[] {
  const chance = chanceFrom(trial.seed + 5);
  const records: TrialRecord[] = [];
  let number = 0;
  const add = (at: number, draft: object) =>
    records.push({
      id: `d${String(++number).padStart(4, '0')}`,
      at: new Date(at).toISOString(),
      ...draft,
    } as TrialRecord);
  add(start, { kind: 'air', patch: null, air: trial.air });
  const left = [...airs];
  for (let now = start; ; ) {
    const bench = progressOf(trial, records);
    const action = nextAction(bench, now);
    if (action.kind === 'finished') break;
    const slip =
      action.link.step.does === 'place' && chance.next() < 0.25
        ? chance.between(2, 5)
        : chance.between(0.1, 0.6);
    const short = action.link.step.wait.kind === 'planned' && bench.lines[0].settings.dryHours < 0.1;
    const also = alsoNow(bench, action.patch.code, action.link);
    const go = bench.lines.filter(l => [action.patch.code, ...also].includes(l.patch.code));
    const work = go.reduce((sum, line) => sum + handsOnMin(action.link.step, line), 0);
    const aim = Math.max(now, action.status.window?.aim ?? now);
    const isTimed =
      action.status.window && action.status.window.closes - action.status.window.opens < 600_000;
    now = aim + (isTimed || short ? work * 0.5 : work * chance.between(0.8, 1.2) + slip) * 60_000;
    if (now > end) break;
    while (left[0] && now > start + left[0].afterHours * 3_600_000)
      add(now - 1000, { kind: 'air', patch: null, air: left.shift()!.air });
    add(now, {
      kind: 'step',
      patch: action.patch.code,
      step: action.link.step.id,
      round: action.link.round,
      ...(also.length ? { also } : {}),
    });
  }
  return records;
}
