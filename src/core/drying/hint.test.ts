import { describe, expect, it } from 'vitest';
import { EXAMPLE_REQUEST, examplePlan } from '../design/example.ts';
import { ProblemError } from '../outcome/index.ts';
import { compareMethods } from '../questions/index.ts';
import { STARTER_SHELF } from '../shelf/index.ts';
import { settingsOf } from '../trial/index.ts';
import { coatFactor, dryingFactor } from '../units/index.ts';
import { dryingHints, learntMediums } from './index.ts';

const learnt = learntMediums(STARTER_SHELF.mediums, []);
const factor = (key: 'coatMm' | 'medium', levels: (string | number)[]) =>
  ({ ...EXAMPLE_REQUEST, factors: [{ key, levels }] }) as typeof EXAMPLE_REQUEST;

describe('when the coats of a trial are likely dry', () => {
  it('goes from the thinnest at the soonest to the thickest at the latest, in the air of the plan', () => {
    const air = { tempC: 14, rh: 80 };
    const plan = examplePlan({ ...factor('coatMm', [0.2, 0.6]), air });
    const [hint, ...rest] = dryingHints(plan, learnt);
    expect(rest).toEqual([]);
    const { lo, hi } = learnt.get(settingsOf(plan, plan.patches[0]).medium.id)!;
    expect(hint).toMatchObject({ coatMm: [0.2, 0.6], answers: 0 });
    expect(hint.hours[0]).toBeCloseTo(lo * dryingFactor(air) * coatFactor(0.2), 10);
    expect(hint.hours[1]).toBeCloseTo(hi * dryingFactor(air) * coatFactor(0.6), 10);
    expect(hint.hours[1]).toBeGreaterThan(3 * hint.hours[0]);
  });

  it('takes each medium with the coat of the method it is used in', () => {
    const both = compareMethods(
      { ...EXAMPLE_REQUEST, factors: [{ key: 'method', levels: ['wet-rub', 'thick-coat'] }] } as never,
      STARTER_SHELF,
      [],
    );
    if (!both.ok) throw new ProblemError(both.problem);
    const plan = examplePlan(both.value);
    const coats = new Map(
      plan.patches.map(p => {
        const { medium, coatMm } = settingsOf(plan, p);
        return [medium.name, coatMm] as const;
      }),
    );
    expect(coats.size).toBe(2);
    expect(new Set(coats.values()).size).toBe(2);
    for (const { medium, coatMm } of dryingHints(plan, learnt))
      expect(coatMm).toEqual([coats.get(medium), coats.get(medium)]);
  });

  it('has none where nothing is known of the medium, or nothing waits for a coat', () => {
    expect(dryingHints(examplePlan(), new Map())).toEqual([]);
  });
});
