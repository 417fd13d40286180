import { chanceFrom } from '../random/index.ts';
import { STARTER_SHELF } from '../shelf/index.ts';
import type { TrialPlan } from '../trial/index.ts';
import { type PlanRequest, planTrial } from './plan.ts';

/** The request the journey starts from: three mediums × two cure times, twice, on birch. */
export const EXAMPLE_REQUEST: PlanRequest = {
  name: 'Berth plates',
  question: 'Which medium, how long?',
  intent: 'crisp',
  seed: 4711,
  patchMm: 40,
  gutterMm: 10,
  marginMm: 12,
  board: { w: 230, h: 180 },
  factors: [
    { key: 'medium', levels: ['matte-acrylic', 'soft-gel', 'white-pva'] },
    { key: 'dryHours', levels: [4, 20] },
  ],
  usual: {
    printer: 'office-laser',
    donor: 'copy-80',
    medium: 'matte-acrylic',
    substrate: 'birch-ply',
    preparation: 'none',
    coatMm: 0.4,
    dryHours: 12,
    rounds: 2,
  },
  repeats: 2,
  air: { tempC: 21, rh: 45 },
};

/** A plan for tests and benches; throws when the request is not possible. */
export function examplePlan(part: Partial<PlanRequest> = {}, identitySeed = 1): TrialPlan {
  const chance = chanceFrom(identitySeed);
  const made = planTrial({ ...EXAMPLE_REQUEST, ...part }, STARTER_SHELF, {
    createdAt: '2026-05-02T08:00:00.000Z',
    random: () => chance.next(),
  });
  if (!made.ok) throw new Error(made.problem.say);
  return made.value;
}
