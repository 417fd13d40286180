import { describe, expect, it } from 'vitest';
import {
  type AirHistory,
  airAt,
  driedBetween,
  driedBy,
  dryingFactor,
  type ExpectedAir,
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

describe('expected air', () => {
  const HOUR = 3_600_000;
  const on = (day: number, hour: number) => new Date(2026, 4, day, hour).getTime();
  const cold = { tempC: 11, rh: 45 };
  const nights = [{ day: null, from: '22:00', to: '07:00', air: cold }];
  const said = (at: number, expected: readonly ExpectedAir[] = nights, notes: AirHistory['notes'] = []) => ({
    planned: REFERENCE_AIR,
    notes,
    forecasts: [{ at, expected }],
  });
  const airs = (history: AirHistory, ...at: number[]) => at.map(t => airAt(history, t).tempC);

  it('comes every night, past midnight, and goes in the morning', () => {
    const history = said(on(2, 12));
    expect(airs(history, on(2, 21), on(2, 22), on(3, 6), on(3, 7), on(9, 23))).toEqual([21, 11, 11, 21, 11]);
    // The night before it was said was another.
    expect(airs(history, on(2, 3))).toEqual([21]);
    expect(airs(said(on(2, 3)), on(2, 2), on(2, 3), on(2, 7))).toEqual([21, 11, 21]);
  });

  it('from an hour to the same hour is all day', () => {
    const history = said(on(2, 12), [{ day: '2026-05-04', from: '09:00', to: '09:00', air: cold }]);
    expect(airs(history, on(4, 8), on(4, 9), on(4, 23), on(5, 8), on(5, 9))).toEqual([21, 11, 11, 11, 21]);
  });

  it('dries the hours of the night more slowly than those of the day', () => {
    const history = said(on(2, 12));
    const dried = driedBetween(history, on(2, 20), on(3, 8));
    expect(dried / HOUR).toBeCloseTo(3 + 9 / dryingFactor(cold), 9);
    expect(driedBy(history, on(2, 20), dried)).toBeCloseTo(on(3, 8), 0);
  });

  it('of one day is over with it, and a list may hold several', () => {
    const damp = { tempC: 20, rh: 90 };
    const history = said(on(2, 12), [
      ...nights,
      { day: '2026-05-04', from: '09:00', to: '18:00', air: damp },
    ]);
    expect([on(4, 9), on(4, 18), on(5, 12)].map(t => airAt(history, t).rh)).toEqual([90, 45, 45]);
    expect(airs(history, on(4, 23))).toEqual([11]);
  });

  it('gives way to a note until its hours end; a note by day holds after the night', () => {
    const mild = { tempC: 17, rh: 45 };
    const warm = { tempC: 24, rh: 45 };
    const history = said(on(2, 12), nights, [
      { at: on(2, 14), air: warm },
      { at: on(2, 23), air: mild },
    ]);
    expect(airs(history, on(2, 13), on(2, 15), on(2, 22), on(3, 1), on(3, 8), on(3, 23))).toEqual([
      21, 24, 11, 17, 24, 11,
    ]);
  });

  it('is what was said last, and was not known before it was said', () => {
    const history: AirHistory = {
      ...said(on(2, 12)),
      forecasts: [
        { at: on(2, 12), expected: nights },
        { at: on(4, 12), expected: [] },
      ],
    };
    expect(airs(history, on(3, 23), on(4, 23))).toEqual([11, 21]);
    expect(airs(knownAt(history, on(4, 0)), on(4, 23))).toEqual([11]);
    expect(airs(knownAt(history, on(2, 0)), on(2, 23))).toEqual([21]);
    expect(knownAt(history, on(4, 0))).toBe(knownAt(history, on(4, 1)));
    expect(knownAt(history, on(4, 12))).toBe(history);
  });
});
