import { describe, expect, it } from 'vitest';
import { examplePlan } from '../../../core/design/example.ts';
import { chainOf } from '../../../core/steps/index.ts';
import type { TrialPlan, TrialRecord } from '../../../core/trial/index.ts';
import { byRecords, wornAs, wornWords } from './by-records.ts';
import type { Taken } from './job.ts';

const plan: TrialPlan = { ...examplePlan(), wear: ['dry-rub', 'wash'] };
const [a, b] = plan.patches;
const start = Date.parse('2026-03-02T08:00:00Z');
const step = (patch: string, id: string, min: number): TrialRecord => ({
  ...{ id: `${patch}${id}`, kind: 'step', patch, step: id, round: 1 },
  at: new Date(start + min * 60_000).toISOString(),
});
const at = (min: number) => start + min * 60_000;
const records = [step(a.code, 'wear-dry-rub', 10), step(a.code, 'wear-wash', 60)];
const trialled = { plan, records };
const dry: Taken = { stage: 'dry', roundOf: () => 1 };

describe('a photo against its records', () => {
  it('is worn as they say where nobody said', () => {
    const proposed = { ...dry, isProposed: true, worn: 'dry-rub' as const };
    expect(byRecords(proposed, trialled, a.code, at(500))).toEqual({ taken: { ...dry, worn: 'wash' } });
    expect(byRecords(proposed, trialled, a.code, at(5))).toEqual({ taken: dry });
    expect(byRecords(proposed, trialled, b.code, at(500))).toEqual({ taken: dry });
  });

  it('stays as it was said, and what the records say against it is told', () => {
    expect(byRecords(dry, trialled, a.code, at(500))).toEqual({ taken: dry, wornBy: 'wash' });
    const washed = wornAs(dry, 'wash');
    expect(byRecords(washed, trialled, a.code, at(5))).toEqual({ taken: washed, wornBy: 'none' });
    expect(byRecords(washed, trialled, a.code, at(500))).toEqual({ taken: washed });
  });

  it('is told to be wet while it dries, and not asked about when it was said to be wet', () => {
    expect(byRecords(wornAs(dry, 'wash'), trialled, a.code, at(70)).isWet).toBe('by time');
    const wetted = chainOf(plan, b).find(l => l.step.does === 'wet')!.step.id;
    const wet = { plan, records: [step(b.code, wetted, 0)] };
    expect(byRecords(dry, wet, b.code, at(1)).isWet).toBe('by time');
    expect(byRecords({ ...dry, stage: 'wet' }, wet, b.code, at(1))).toEqual({
      taken: { ...dry, stage: 'wet' },
    });
  });

  it('says in words how it was', () => {
    expect([wornWords(undefined), wornWords('wash')]).toEqual(['as it was made', 'worn by “wash”']);
    expect(wornAs({ ...dry, worn: 'wash', isProposed: true }, undefined)).toEqual(dry);
  });
});
