import type { Outcome } from '../outcome/index.ts';
import type { Trialled } from '../progress/index.ts';
import { type Agenda, agendaOfAll } from './agenda.ts';
import { forecast } from './forecast.ts';
import type { KeptPlans } from './kept-plans.ts';
import { endIn } from './part-of.ts';
import type { Working } from './sittings.ts';

/**
 * The plan of the work on all trials of the same hands from `now` (ms) on: one that was found before, or a quick one.
 */
export function workPlanOf(
  plans: KeptPlans,
  trials: readonly Trialled[],
  working: Working,
  now: number,
): Outcome<Agenda> {
  const key = plans.keyOf(trials, working, now);
  const found = plans.known(key) ?? agendaOfAll(trials, working, now);
  plans.keep(key, found);
  return found;
}

/**
 * When a trial is done (ms), by the plan of the work on all of them; where there is none, if one worked on it alone and
 * without a pause.
 *
 * @throws when the trial is none of them.
 */
export function endOfWork(
  plans: KeptPlans,
  trials: readonly Trialled[],
  working: Working,
  now: number,
  trial: string,
): number {
  const own = trials.find(t => t.plan.id === trial);
  if (!own) throw new Error(`${trial} is not among the trials.`);
  return endIn(workPlanOf(plans, trials, working, now), trial) ?? forecast(own.plan, own.records, now).endsAt;
}
