import { describe, expect, it } from 'vitest';
import { examplePlan } from '../design/example.ts';
import { ProblemError } from '../outcome/index.ts';
import type { TrialRecord } from '../trial/index.ts';
import {
  agendaOf,
  agendaOfAll,
  endIn,
  endOfWork,
  forecast,
  KeptPlans,
  partOf,
  USUAL_WORKING,
  workPlanOf,
} from './index.ts';

const T0 = new Date(2026, 4, 2, 9, 0).getTime();
const MIN = 60_000;
const plan = examplePlan();
const other = { ...examplePlan({ name: 'Tern', repeats: 1 }), id: 'other' };
const marked = (patch: string): TrialRecord => ({
  ...{ id: patch, at: new Date(T0).toISOString(), kind: 'step', patch, step: 'mark', round: 1 },
});
const both = [
  { plan, records: [] },
  { plan: other, records: [] },
];

describe('plans of the work', () => {
  it('tell of a trial what the plan of all of them tells, whoever asks and in whatever order they are', () => {
    const plans = new KeptPlans();
    const all = agendaOfAll(both, USUAL_WORKING, T0);
    if (!all.ok) throw new ProblemError(all.problem);
    for (const id of [plan.id, 'other']) {
      const ends = endOfWork(plans, both, USUAL_WORKING, T0 + 2 * MIN, id);
      expect(endOfWork(plans, [...both].reverse(), USUAL_WORKING, T0 + 9 * MIN, id)).toBe(ends);
      const found = workPlanOf(plans, both, USUAL_WORKING, T0 + 5 * MIN);
      expect(found.ok && partOf(found.value, id).ends).toBe(ends);
      expect(endIn(found, id)).toBe(ends);
      expect(plans.known(plans.keyOf(both, USUAL_WORKING, T0))).toBe(found);
    }
    // Beside another it takes longer than alone.
    const alone = endOfWork(plans, [both[0]], USUAL_WORKING, T0, plan.id);
    expect(endOfWork(plans, both, USUAL_WORKING, T0, plan.id)).toBeGreaterThanOrEqual(alone);
  });

  it('are made anew after ten minutes, when something is recorded and when one works otherwise', () => {
    const plans = new KeptPlans();
    const key = plans.keyOf(both, USUAL_WORKING, T0);
    expect(plans.keyOf(both, USUAL_WORKING, T0 + 10 * MIN - 1)).toBe(key);
    expect(plans.keyOf(both, USUAL_WORKING, T0 + 10 * MIN)).not.toBe(key);
    expect(plans.keyOf(both, { ...USUAL_WORKING, helpers: 1 }, T0)).not.toBe(key);
    const begun = [{ plan, records: [marked(plan.patches[0].code)] }, both[1]];
    expect(plans.keyOf(begun, USUAL_WORKING, T0)).not.toBe(key);
    expect(workPlanOf(plans, both, USUAL_WORKING, T0)).toBe(workPlanOf(plans, both, USUAL_WORKING, T0 + MIN));
  });

  it('are the better one for every page once one was found, for the last few sets of trials', () => {
    const plans = new KeptPlans();
    const better = agendaOf(plan, [], USUAL_WORKING, T0 + 3 * MIN);
    plans.keep(plans.keyOf([both[0]], USUAL_WORKING, T0), better);
    expect(workPlanOf(plans, [both[0]], USUAL_WORKING, T0 + 4 * MIN)).toBe(better);
    for (let helpers = 1; helpers < 6; helpers++)
      plans.keep(plans.keyOf(both, { ...USUAL_WORKING, helpers }, T0), better);
    expect(workPlanOf(plans, [both[0]], USUAL_WORKING, T0)).toBe(better);
    for (let helpers = 0; helpers < 6; helpers++)
      plans.keep(plans.keyOf([both[1]], { ...USUAL_WORKING, helpers }, T0), better);
    expect(workPlanOf(plans, [both[0]], USUAL_WORKING, T0)).not.toBe(better);
  });

  it('where nothing fits say when it would be done without a pause, and of no trial that is not among them', () => {
    const plans = new KeptPlans();
    const none = { ...USUAL_WORKING, sittings: [{ days: [3], from: '03:00', to: '03:01' }] };
    expect(agendaOf(plan, [], none, T0).ok).toBe(false);
    expect(endOfWork(plans, [both[0]], none, T0, plan.id)).toBe(forecast(plan, [], T0).endsAt);
    expect(endIn(workPlanOf(plans, [both[0]], none, T0), plan.id)).toBeUndefined();
    // Of one that has nothing left to do, and before anything is laid out.
    expect(endIn(agendaOf(plan, [], USUAL_WORKING, T0), 'other')).toBeUndefined();
    expect(endIn(undefined, plan.id)).toBeUndefined();
    expect(plans.known('never asked')).toBeUndefined();
    expect(() => endOfWork(plans, [both[0]], USUAL_WORKING, T0, 'other')).toThrow('not among');
  });
});
