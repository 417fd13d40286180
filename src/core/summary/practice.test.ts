import { describe, expect, it } from 'vitest';
import { examplePlan } from '../design/example.ts';
import { findingsOf, observations } from '../findings/index.ts';
import { readingFor } from '../trial/example.ts';
import { readingOf, type TrialRecord, withoutPractice } from '../trial/index.ts';
import { summaryOf } from './index.ts';

const plan = examplePlan();
const real = (records: readonly TrialRecord[]): TrialRecord[] =>
  records.map(r => (r.kind === 'photo' ? { ...r, simulated: false } : r));
/** A reading of every patch, 70 or 90 points as its first level is. */
const practice = plan.patches.flatMap((p, i) =>
  readingFor(p.code, i, { landed: (p.levels[0] ? 70 : 90) + (i % 3) }),
);
const [first, second] = plan.patches;

describe('what the simulated camera made up', () => {
  it('counts for a patch only where nothing real does, whichever came later and however it was taken', () => {
    const measured = real(readingFor(first.code, 200, { landed: 40 }, 'wet'));
    const later = readingFor(first.code, 300, { landed: 99 });
    const landed = (records: readonly TrialRecord[]) =>
      readingOf(records, first.code)?.reading.reading.landed;
    expect(landed([...measured, ...later])).toBe(40);
    expect(landed(later)).toBe(99);
  });

  it('is left out of findings as soon as anything real is measured', () => {
    expect(findingsOf(plan, practice).practice).toEqual({ patches: plan.patches.length, counts: true });
    expect(observations(plan, practice, 'landed')).toHaveLength(plan.patches.length);
    const mixed = [...practice, ...real(readingFor(first.code, 200, { landed: 40 }))];
    expect(observations(plan, mixed, 'landed').map(o => [o.code, o.value])).toEqual([[first.code, 40]]);
    expect(findingsOf(plan, mixed).practice).toEqual({ patches: plan.patches.length - 1, counts: false });
    expect(findingsOf(plan, real(practice)).practice).toEqual({ patches: 0, counts: false });
  });

  it('teaches other trials nothing, but in a workshop of samples', () => {
    const own = summaryOf({ plan, records: practice });
    expect(own.scatter).toBeNull();
    expect(Object.values(own.results).flat()).toEqual([]);
    const sample = summaryOf({ plan, records: practice }, true);
    expect(sample.scatter?.residualSd).toBeGreaterThan(0);
    expect(sample.results.landed).toHaveLength(plan.patches.length);
    expect(summaryOf({ plan, records: real(practice) }).scatter).toEqual(sample.scatter);
  });

  it('is taken out with what was read from it, and nothing else is', () => {
    const kept = real(readingFor(second.code, 500, {}));
    expect(withoutPractice([...practice, ...kept])).toEqual(kept);
    expect(withoutPractice(kept)).toBe(kept);
  });
});
