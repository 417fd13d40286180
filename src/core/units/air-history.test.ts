import { describe, expect, it } from 'vitest';
import {
  type AirHistory,
  airAt,
  driedBetween,
  driedBy,
  dryingFactor,
  knownAt,
  REFERENCE_AIR,
} from './index.ts';

const slow = { tempC: 21, rh: 72.5 };
const history: AirHistory = {
  planned: REFERENCE_AIR,
  notes: [
    { at: 100, air: slow },
    { at: 300, air: REFERENCE_AIR },
  ],
};

describe('the air over time', () => {
  it('is what was noted last, and what was planned before any note', () => {
    expect(dryingFactor(slow)).toBeCloseTo(2, 9);
    expect([99, 100, 299, 300].map(at => airAt(history, at))).toEqual([
      REFERENCE_AIR,
      slow,
      slow,
      REFERENCE_AIR,
    ]);
    expect(knownAt(history, 100).notes).toHaveLength(1);
    expect(knownAt(history, 99).notes).toEqual([]);
    expect(knownAt(history, 300)).toBe(history);
  });

  it('dries each stretch by its own air', () => {
    expect(driedBetween(history, 0, 100)).toBeCloseTo(100, 6);
    expect(driedBetween(history, 0, 300)).toBeCloseTo(200, 6);
    expect(driedBetween(history, 50, 400)).toBeCloseTo(50 + 100 + 100, 6);
    expect(driedBetween(history, 150, 250)).toBeCloseTo(50, 6);
    expect(driedBetween(history, 400, 300)).toBe(0);
    expect(driedBetween(history, 100, 300, 0.5)).toBeCloseTo(200 / Math.SQRT2, 6);
    expect(driedBetween(history, 100, 300, 0)).toBeCloseTo(200, 6);
  });

  it('is dry when that much has come together', () => {
    for (const [from, reference] of [
      [0, 50],
      [0, 100],
      [0, 150],
      [0, 250],
      [120, 30],
      [500, 10],
    ]) {
      const end = driedBy(history, from, reference);
      expect(driedBetween(history, from, end)).toBeCloseTo(reference, 6);
    }
    expect(driedBy(history, 0, 150)).toBeCloseTo(200, 6);
    expect(driedBy(history, 0, 150, 0)).toBe(150);
    expect(driedBy(history, 10, 0)).toBe(10);
  });
});
