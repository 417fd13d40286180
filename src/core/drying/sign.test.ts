import { describe, expect, it } from 'vitest';
import { EXAMPLE_REQUEST, examplePlan } from '../design/example.ts';
import { chainOf } from '../steps/index.ts';
import type { TrialRecord } from '../trial/index.ts';
import { signBefore } from './index.ts';

const start = Date.parse('2026-03-02T08:00:00Z');
const of = (key: string) => EXAMPLE_REQUEST.factors.filter(f => f.key === key);
const plan = examplePlan({ factors: of('medium'), repeats: 4 });
const [a] = plan.patches;
const toPlaced = (code: string, min: number, within = plan): TrialRecord[] => {
  const chain = chainOf(within, within.patches.find(p => p.code === code)!);
  const upTo = chain.findIndex(l => l.step.does === 'place');
  return chain.slice(0, upTo + 1).map(({ step, round }) => ({
    ...{ id: `${code}${step.id}`, kind: 'step', patch: code, step: step.id, round },
    at: new Date(start + min * 60_000).toISOString(),
  }));
};
const wetOf = (code: string) =>
  chainOf(plan, plan.patches.find(p => p.code === code)!).find(l => l.step.does === 'wet')!;
const ready = (code: string, is: boolean, min: number): TrialRecord => {
  const { step, round } = wetOf(code);
  return {
    ...{ id: `${code}ready${min}`, kind: 'ready', patch: code, ready: is, step: step.id, round },
    at: new Date(start + min * 60_000).toISOString(),
  };
};

describe('what has to be seen of a coat before the first wetting', () => {
  it('is the medium’s own sign, and not that of the wetting', () => {
    const sign = signBefore({ plan, records: toPlaced(a.code, 0) }, a.code);
    expect(sign?.question).toMatch(/no longer cool/i);
    expect(sign?.patches).toEqual([a.code]);
  });

  it('is not asked before the print lies in it, nor once it was found ready, and again after “not yet”', () => {
    const placed = toPlaced(a.code, 0);
    expect(signBefore({ plan, records: placed.slice(0, -1) }, a.code)).toBeUndefined();
    expect(signBefore({ plan, records: [...placed, ready(a.code, true, 300)] }, a.code)).toBeUndefined();
    expect(signBefore({ plan, records: [...placed, ready(a.code, false, 300)] }, a.code)).toBeDefined();
    expect(signBefore({ plan, records: placed }, 'none')).toBeUndefined();
  });

  it('is asked once for what lies in the same medium and was placed within ten minutes', () => {
    const like = plan.patches.filter(p => p.code !== a.code && sameCoat(p.code));
    const [near, far] = like;
    const records = [...toPlaced(a.code, 0), ...toPlaced(near.code, 9.9), ...toPlaced(far.code, 10.1)];
    expect(signBefore({ plan, records }, a.code)?.patches).toEqual([a.code, near.code]);
    expect(signBefore({ plan, records: [...records, ready(near.code, true, 300)] }, a.code)?.patches).toEqual(
      [a.code],
    );
  });

  it('is not asked where the wait is what is compared: it is kept, ready or not', () => {
    const compared = examplePlan({ factors: of('dryHours') });
    const { code } = compared.patches[0];
    expect(signBefore({ plan: compared, records: toPlaced(code, 0, compared) }, code)).toBeUndefined();
  });
});

const sameCoat = (code: string) => plan.patches.find(p => p.code === code)!.levels.join() === a.levels.join();
