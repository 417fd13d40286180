import * as v from 'valibot';
import { describe, expect, it } from 'vitest';
import { examplePlan } from '../design/example.ts';
import { coatMl, planCost } from '../design/index.ts';
import { write } from '../say/index.ts';
import { isLowOn, onHandWords, STARTER_SHELF } from '../shelf/index.ts';
import { chainOf } from '../steps/index.ts';
import { recordWords, settingsOf, sizeOf, TrialRecord } from '../trial/index.ts';
import { takenOff, usedUp } from './index.ts';

const plan = examplePlan();
const doneTo = (code: string, does: string): TrialRecord[] => {
  const patch = plan.patches.find(p => p.code === code)!;
  const chain = chainOf(plan, patch);
  const upTo = chain.findIndex(l => l.step.does === does);
  return chain.slice(0, upTo + 1).map((l, i) => ({
    ...{ id: `${code}${i}`, kind: 'step', patch: code, step: l.step.id, round: l.round },
    at: new Date(Date.parse('2026-05-02T08:00:00Z') + i * 60_000).toISOString(),
  }));
};
const mlOf = (code: string) => {
  const s = settingsOf(plan, plan.patches.find(p => p.code === code)!);
  return { id: s.medium.id, ml: coatMl(sizeOf(plan), s.coatMm) };
};
const stock = (part: object) =>
  v.parse(TrialRecord, { id: 'stock', at: '2026-05-02T12:00:00.000Z', kind: 'stock', patch: null, ...part });

describe('what a trial has used up', () => {
  it('is the coat and the print of what was begun, marks alone being nothing', () => {
    const [a, b] = plan.patches.map(p => p.code);
    expect(usedUp(plan, doneTo(a, 'mark'))).toBeUndefined();
    const used = usedUp(plan, doneTo(a, 'coat'))!;
    expect(used.ml[mlOf(a).id]).toBeCloseTo(mlOf(a).ml, 1);
    expect(Object.values(used.sheets)).toEqual([1]);
    const both = usedUp(plan, [...doneTo(a, 'coat'), ...doneTo(b, 'place')])!;
    const all = Object.values(both.ml).reduce((x, y) => x + y, 0);
    expect(all).toBeCloseTo(mlOf(a).ml + mlOf(b).ml, 0);
    expect(Object.values(both.sheets)).toEqual([1]);
  });

  it('is in the end what the plan was reckoned to take', () => {
    const records = plan.patches.flatMap(p => doneTo(p.code, 'coat'));
    const used = usedUp(plan, records)!;
    const cost = planCost(plan);
    for (const m of cost.mediums) expect(used.ml[m.id]).toBeCloseTo(m.ml, 0);
    expect(Object.values(used.sheets).reduce((x, y) => x + y, 0)).toBe(cost.sheets);
  });

  it('is less what was taken off before, and nothing once all of it was', () => {
    const [a, b] = plan.patches.map(p => p.code);
    const first = usedUp(plan, doneTo(a, 'coat'))!;
    const taken = stock(first);
    expect(usedUp(plan, [...doneTo(a, 'coat'), taken])).toBeUndefined();
    const next = usedUp(plan, [...doneTo(a, 'coat'), taken, ...doneTo(b, 'coat')])!;
    expect(Object.values(next.ml).reduce((x, y) => x + y, 0)).toBeCloseTo(mlOf(b).ml, 0);
    expect(next.sheets).toEqual({});
    expect(recordWords(taken)).toContain(`${mlOf(a).id} ${mlOf(a).ml.toFixed(1)} mL`);
    expect(() => stock({ ml: { x: -1 }, sheets: {} })).toThrow();
    expect(() => stock({ ml: {}, sheets: { x: 1.5 } })).toThrow();
  });
});

describe('a shelf', () => {
  const [medium, donor] = [STARTER_SHELF.mediums[0], STARTER_SHELF.donors[0]];
  const shelf = (ml: number, sheets: number) => ({
    mediums: [{ ...medium, onHandMl: ml, jarMl: 250 }],
    donors: [{ ...donor, onHand: sheets, packSize: 100 }],
  });
  const used = (ml: number, sheets: number) => ({ ml: { [medium.id]: ml }, sheets: { [donor.id]: sheets } });

  it('is never less than nothing, and says what runs low: under a fifth of a jar or a pack', () => {
    expect(write(takenOff(shelf(70, 50), used(20, 30)).words)).toBe(
      `${medium.name}: 50 mL left. ${donor.name}: 20 sheets left.`,
    );
    expect(write(takenOff(shelf(69, 50), used(20, 31)).words)).toBe(
      `${medium.name}: 49 mL left, running low. ${donor.name}: 19 sheets left, running low.`,
    );
    const { mediums, donors, words } = takenOff(shelf(5, 2), used(20, 1));
    expect([mediums[0].onHandMl, donors[0].onHand]).toEqual([0, 1]);
    expect(write(words)).toBe(`${medium.name}: none left. ${donor.name}: 1 sheet left, running low.`);
  });

  it('counts what was used up on, so that it can be given back; a 0 that was written is not counted', () => {
    const { mediums, donors } = takenOff(shelf(5, 2), used(20, 2));
    expect(write(takenOff({ mediums, donors }, used(1, 1)).words)).toBe(
      `${medium.name}: none left. ${donor.name}: none left.`,
    );
    expect([isLowOn(mediums[0]), isLowOn(shelf(0, 0).mediums[0])]).toEqual([true, false]);
    const back = takenOff({ mediums, donors }, used(-15, -2));
    expect([back.mediums[0].onHandMl, back.donors[0].onHand]).toEqual([15, 2]);
    expect(write(onHandWords({ ...mediums[0], counted: undefined }))).toBe('');
  });

  it('that nobody counts, or without what was used, stays as it is', () => {
    const nothing = { mediums: [], donors: [], words: '' };
    expect(takenOff(shelf(0, 0), used(20, 3))).toEqual(nothing);
    expect(takenOff({ mediums: [], donors: [] }, used(20, 3))).toEqual(nothing);
    expect(takenOff(shelf(50, 50), { ml: { other: 3 }, sheets: {} })).toEqual(nothing);
  });
});
