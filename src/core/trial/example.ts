import type { Reading, TrialRecord } from './index.ts';

export const EXAMPLE_READING: Reading = {
  landed: 90,
  landedGive: 1,
  visible: 100,
  bare: [],
  veil: 0.05,
  veilGive: 0.02,
  smear: 0,
  smearAlong: null,
  stain: 0,
  tone: 2,
  deltaL: 0,
  deltaC: 0,
  detail: 0.35,
  landedByTone: { light: 90, mid: 90, dark: 90 },
  edges: { top: 90, right: 90, bottom: 90, left: 90 },
  mirrored: false,
  turn: 0,
  quality: { pxPerMm: 12, blurMm: 0.08, tiltDeg: 5, glare: 0, residualMm: 0.05, light: 0.9 },
  notes: [],
};

/** A photo record and its reading for tests: `number` keeps their names apart. */
export function readingFor(
  patch: string,
  number: number,
  part: Partial<Reading>,
  stage: 'wet' | 'dry' = 'dry',
): TrialRecord[] {
  const at = new Date(Date.parse('2026-05-03T10:00:00.000Z') + number * 60_000).toISOString();
  return [
    {
      id: `ph${number}`,
      at,
      kind: 'photo',
      patch,
      photo: `p${number}`,
      stage,
      round: 2,
      name: `${patch}.jpg`,
      simulated: true,
      takenAt: at,
    },
    {
      id: `rd${number}`,
      at,
      kind: 'reading',
      patch,
      photo: `p${number}`,
      reading: { ...EXAMPLE_READING, ...part },
      straight: null,
    },
  ];
}
