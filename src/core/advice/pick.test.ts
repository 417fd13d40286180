import { describe, expect, it } from 'vitest';
import { progressOf } from '../progress/index.ts';
import { planOf } from '../questions/example.ts';
import type { TrialRecord } from '../trial/index.ts';
import { picked } from './index.ts';

const MIN = 60_000;
const T0 = new Date(2026, 4, 2, 9, 0).getTime();
const plan = planOf('wet-rub');
const [one, two] = plan.patches;
const done = (patch: string, step: string, at: number): TrialRecord => ({
  ...{ id: `${patch} ${step}`, at: new Date(at).toISOString(), kind: 'step' as const, patch, step, round: 1 },
});
const placed = ['mark', 'coat', 'place'].map((step, i) => done(one.code, step, T0 + i * 1000));
const progress = progressOf(plan, placed);

describe('a patch that is chosen by hand', () => {
  it('comes next where nothing is waited for', () => {
    const found = picked(progress, two.code, T0);
    expect(found.kind === 'now' && found.link.step.id).toBe('mark');
  });

  it('has to wait for its window, but for the last twenty minutes of it, which hands stand by for', () => {
    const far = picked(progress, one.code, T0 + MIN);
    if (far.kind !== 'later') throw new Error('it is drying');
    expect(far.link.step.id).toBe('wet');
    expect(picked(progress, one.code, far.opens - 20 * MIN).kind).toBe('later');
    expect(picked(progress, one.code, far.opens - 19.9 * MIN).kind).toBe('now');
    expect(picked(progress, one.code, far.opens).kind).toBe('now');
  });

  it('is nothing where it is finished, written off, or not of this trial', () => {
    const spoilt: TrialRecord = {
      id: 's',
      at: new Date(T0).toISOString(),
      kind: 'spoilt',
      patch: two.code,
      why: 'x',
    };
    expect(picked(progressOf(plan, [spoilt]), two.code, T0)).toEqual({ kind: 'nothing' });
    expect(picked(progress, 'ZZ-222', T0)).toEqual({ kind: 'nothing' });
  });
});
