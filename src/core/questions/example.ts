import { type PlanRequest, planTrial } from '../design/index.ts';
import { METHODS } from '../methods/index.ts';
import { type Outcome, ProblemError } from '../outcome/index.ts';
import { STARTER_SHELF } from '../shelf/index.ts';
import type { TrialPlan } from '../trial/index.ts';
import { doesItLast, howLong } from './index.ts';

/** A request made a plan, for tests and benches; throws when it is not possible. */
export function planned(request: Outcome<PlanRequest>, order = 0.3): TrialPlan {
  if (!request.ok) throw new ProblemError(request.problem);
  const made = planTrial(request.value, STARTER_SHELF, {
    createdAt: '2026-05-02T08:00:00.000Z',
    random: () => order,
  });
  if (!made.ok) throw new ProblemError(made.problem);
  return made.value;
}

/** The plan of a method's own first question: how long to wait, or, where the wait cannot be varied, whether it lasts. */
export function planOf(id: string, order?: number): TrialPlan {
  const method = METHODS.find(m => m.id === id)!;
  const wait = howLong(method, STARTER_SHELF);
  return planned(wait.ok ? wait : doesItLast(method, STARTER_SHELF, ['dry-rub']), order);
}
