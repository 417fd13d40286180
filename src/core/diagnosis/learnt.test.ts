import { describe, expect, it } from 'vitest';
import { examplePlan } from '../design/example.ts';
import { readingFor } from '../trial/example.ts';
import type { TrialRecord } from '../trial/index.ts';
import { addTurned, CAUSES, countTurned, explained, PRIOR_FAILURES, shiftsFrom, turnedOut } from './index.ts';

const plan = examplePlan();
const [a, b] = plan.patches.map(p => p.code);
const said = (id: string, patch: string, cause: string | null): TrialRecord => ({
  ...{ id, at: `2026-05-03T10:00:0${id.length}Z`, kind: 'cause', patch, cause },
});

describe('what turned out to be the cause', () => {
  it('is the last that was said of each patch, and nothing once that is taken back', () => {
    const records = [said('x', a, 'dust'), said('xx', a, 'too-early'), said('y', b, null)];
    expect([...turnedOut(plan, records)]).toEqual([
      [a, 'too-early'],
      [b, null],
    ]);
    expect(countTurned(plan, records)).toEqual({ 'too-early': 1 });
    const back: TrialRecord = { id: 'u', at: '2026-05-03T11:00:00Z', kind: 'undo', patch: a, of: 'xx' };
    expect(countTurned(plan, [...records, back])).toEqual({ dust: 1 });
    expect(addTurned([{ dust: 1 }, { dust: 1, 'too-early': 2 }])).toEqual({ dust: 2, 'too-early': 2 });
  });

  it('shifts shares as a Dirichlet prior worth 25 failures does', () => {
    const two = [
      { ...CAUSES[0], id: 'p', prior: Math.log(3) },
      { ...CAUSES[0], id: 'q', prior: Math.log(1) },
    ];
    expect(PRIOR_FAILURES).toBe(25);
    // Before three quarters and one; after ten that were q: 18.75 and 16.25 of 35.
    const shifts = shiftsFrom(two, { q: 10 });
    expect(0.75 * Math.exp(shifts.p)).toBeCloseTo(18.75 / 35, 12);
    expect(0.25 * Math.exp(shifts.q)).toBeCloseTo(16.25 / 35, 12);
    expect(shiftsFrom(two, {})).toEqual({ p: 0, q: 0 });
    // What is none of ours says nothing of ours.
    expect(shiftsFrom(two, { strange: 9 })).toEqual({ p: 0, q: 0 });
  });

  it('makes that cause likelier the next time, and the others less', () => {
    const records = readingFor(a, 1, { landed: 62, veil: 0.1 });
    const of = (turned: Record<string, number>) => {
      const { causes } = explained(plan, plan.patches.find(p => p.code === a)!, records, turned);
      return new Map(causes.map(c => [c.cause.id, c.likely]));
    };
    const [before, after] = [of({}), of({ 'too-early': 12 })];
    expect(after.get('too-early')!).toBeGreaterThan(before.get('too-early')! + 0.05);
    const other = [...before.keys()].find(id => id !== 'too-early' && after.has(id))!;
    expect(after.get(other)!).toBeLessThan(before.get(other)!);
  });
});
