import { ProblemError } from '../outcome/index.ts';
import { chanceFrom } from '../random/index.ts';
import { STARTER_SHELF } from '../shelf/index.ts';
import type { TrialPlan } from '../trial/index.ts';
import { planTrial } from './plan.ts';
import type { PlanRequest } from './request.ts';
import { STARTING_REQUEST } from './start.ts';

/** The request the journey starts from: three mediums × two cure times, twice, on birch. */
export const EXAMPLE_REQUEST: PlanRequest = {
  ...STARTING_REQUEST,
  name: 'Berth plates',
  question: 'Which medium, how long?',
};

/** A plan for tests and benches; throws when the request is not possible. */
export function examplePlan(part: Partial<PlanRequest> = {}, identitySeed = 1): TrialPlan {
  const chance = chanceFrom(identitySeed);
  const made = planTrial({ ...EXAMPLE_REQUEST, ...part }, STARTER_SHELF, {
    createdAt: '2026-05-02T08:00:00.000Z',
    random: () => chance.next(),
  });
  if (!made.ok) throw new ProblemError(made.problem);
  return made.value;
}
