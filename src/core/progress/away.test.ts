import { describe, expect, it } from 'vitest';
import { METHODS } from '../methods/index.ts';
import { planOf } from '../questions/example.ts';
import { chainOf, laterIsFine } from '../steps/index.ts';
import { settingsOf, type TrialPlan, type TrialRecord } from '../trial/index.ts';
import { awayOf } from './index.ts';

const T0 = Date.parse('2026-05-02T09:00:00.000Z');
const MIN = 60_000;
const HOUR = 60 * MIN;

/** Everything of a patch up to a kind of step, minute by minute from `from`. */
function doneTo(plan: TrialPlan, code: string, does: string, from = T0): TrialRecord[] {
  const chain = chainOf(plan, plan.patches.find(p => p.code === code)!);
  const upTo = chain.findIndex(l => l.step.does === does);
  return chain.slice(0, upTo + 1).map((l, i) => ({
    id: `${code}-${i}`,
    at: new Date(from + i * MIN).toISOString(),
    kind: 'step',
    patch: code,
    step: l.step.id,
    round: l.round,
  }));
}

describe('coming back to a trial', () => {
  const plan = planOf('wet-rub');
  const [coated, placed, last] = plan.patches.map(p => p.code);
  const records = [...doneTo(plan, coated, 'coat'), ...doneTo(plan, placed, 'place')];

  it('days late: the coat that waited for its print is lost, what dried longest is named by how much', () => {
    const away = awayOf(plan, records, T0 + 4 * 24 * HOUR)!;
    expect(away.forMin / 60).toBeCloseTo(96, 0);
    const lost = new Map(away.lost.map(l => [l.patch, l]));
    expect(lost.get(coated)!.next.step.does).toBe('place');
    expect(lost.get(coated)!.byMin / 60).toBeGreaterThan(95);
    expect(lost.get(coated)!.tooLate).toBeTruthy();
    expect([...lost.keys()]).not.toContain(last);
    expect(away.lost.map(l => l.byMin)).toEqual([...away.lost.map(l => l.byMin)].sort((a, b) => b - a));
  });

  it('in time: what is due is open, with until when, and nothing that is not due yet is named', () => {
    const line = plan.patches.find(p => p.code === placed)!;
    const hours = Number(plan.factors[0].levels[line.levels[0]]);
    const away = awayOf(plan, records, T0 + (hours + 0.1) * HOUR)!;
    expect(away.open.map(o => [o.patch, o.next.step.does])).toEqual([[placed, 'wet']]);
    expect(away.open[0].until).toBeGreaterThan(T0 + hours * HOUR);
    expect(awayOf(plan, records.slice(-3), T0 + 20 * MIN)).toMatchObject({ lost: [], open: [], patient: [] });
  });

  it('says nothing of a trial that was not begun, or of what was written off', () => {
    expect(awayOf(plan, [], T0)).toBeUndefined();
    const off: TrialRecord = {
      id: 'x',
      at: new Date(T0 + HOUR).toISOString(),
      kind: 'spoilt',
      patch: coated,
      why: 'dry',
    };
    expect(awayOf(plan, [...records, off], T0 + 96 * HOUR)!.lost.map(l => l.patch)).not.toContain(coated);
  });

  it('leaves what is none the worse for waiting out of the losses', () => {
    const found = METHODS.flatMap(m => {
      const own = planOf(m.id);
      const step = chainOf(own, own.patches[0]).find(
        l => laterIsFine(l.step, settingsOf(own, own.patches[0])) && l.step.wait.kind !== 'none',
      );
      return step ? [{ own, does: step.step.does }] : [];
    });
    expect(found.length).toBeGreaterThan(0);
    for (const { own, does } of found) {
      const [code] = own.patches.map(p => p.code);
      const away = awayOf(own, doneTo(own, code, does), T0 + 400 * 24 * HOUR)!;
      expect([away.patient, away.lost]).toEqual([[code], []]);
    }
  });
});
