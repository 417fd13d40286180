import type { PlanRequest } from './plan.ts';

/** What a new trial starts from: three mediums × two cure times, twice, on a birch board that just holds them. */
export const STARTING_REQUEST: PlanRequest = {
  name: '',
  question: '',
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
