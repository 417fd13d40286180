import { describe, expect, it } from 'vitest';
import { examplePlan } from '../design/example.ts';
import { write } from '../say/index.ts';
import { readingFor } from '../trial/example.ts';
import { readingOf, type TrialPlan, type TrialRecord, type WearTest } from '../trial/index.ts';
import { findingsOf, lastingOf, lossesOf } from './index.ts';

const plan: TrialPlan = {
  ...examplePlan({ factors: [{ key: 'finish', levels: ['clear-wax', 'spray-clear'] }] }),
  wear: ['dry-rub', 'wash'],
};
const [first] = plan.patches;
let number = 0;
const photo = (
  patch: string,
  landed: number | null,
  worn?: WearTest,
  part: { stage?: 'wet' | 'dry'; simulated?: boolean } = {},
): TrialRecord[] =>
  readingFor(patch, ++number, { landed: landed as number }, part.stage).map(r =>
    r.kind === 'photo' ? { ...r, simulated: part.simulated ?? false, ...(worn ? { worn } : {}) } : r,
  );
const of = (records: readonly TrialRecord[]) =>
  lossesOf(plan, records).map(l => [l.test, l.before, l.after, Math.round(l.lost * 10) / 10]);

describe('what wear takes off', () => {
  it('is the share of what was there before that is gone after', () => {
    expect(of([...photo(first.code, 80), ...photo(first.code, 60, 'dry-rub')])).toEqual([
      ['dry-rub', 80, 60, 25],
    ]);
  });

  it('is taken test by test: the second from what the first had left', () => {
    const records = [
      ...photo(first.code, 80),
      ...photo(first.code, 60, 'dry-rub'),
      ...photo(first.code, 45, 'wash'),
    ];
    expect(of(records)).toEqual([
      ['dry-rub', 80, 60, 25],
      ['wash', 60, 45, 25],
    ]);
    // Where the first was not photographed, from how it was made.
    expect(of([...photo(first.code, 80), ...photo(first.code, 40, 'wash')])).toEqual([['wash', 80, 40, 50]]);
    // A later test is no “before” of an earlier one.
    expect(of([...photo(first.code, 40, 'wash'), ...photo(first.code, 30, 'dry-rub')])).toEqual([]);
  });

  it('is not said without a dry photo before and after, nor of what had hardly landed', () => {
    expect(of(photo(first.code, 60, 'dry-rub'))).toEqual([]);
    expect(of([...photo(first.code, 60, 'dry-rub'), ...photo(first.code, 80)])).toEqual([]);
    const wet = { stage: 'wet' as const };
    expect(of([...photo(first.code, 80, undefined, wet), ...photo(first.code, 60, 'dry-rub')])).toEqual([]);
    expect(of([...photo(first.code, 80), ...photo(first.code, 60, 'dry-rub', wet)])).toEqual([]);
    expect(of([...photo(first.code, 80), ...photo(first.code, null, 'dry-rub')])).toEqual([]);
    expect(of([...photo(first.code, 4.9), ...photo(first.code, 1, 'dry-rub')])).toEqual([]);
    expect(of([...photo(first.code, 5), ...photo(first.code, 1, 'dry-rub')])).toEqual([
      ['dry-rub', 5, 1, 80],
    ]);
  });

  it('is never below nought, and never from a practice photo to a real one', () => {
    expect(of([...photo(first.code, 80), ...photo(first.code, 82, 'dry-rub')])).toEqual([
      ['dry-rub', 80, 82, 0],
    ]);
    const practice = { simulated: true };
    expect(of([...photo(first.code, 80, undefined, practice), ...photo(first.code, 60, 'dry-rub')])).toEqual(
      [],
    );
    expect(of([...photo(first.code, 80), ...photo(first.code, 60, 'dry-rub', practice)])).toEqual([]);
  });

  it('leaves what counts of the patch as it was made', () => {
    const records = [...photo(first.code, 80), ...photo(first.code, 20, 'wash')];
    expect(readingOf(records, first.code)?.reading.reading.landed).toBe(80);
    expect(readingOf(photo(first.code, 20, 'wash'), first.code)).toBeUndefined();
    expect(findingsOf(plan, records).measured).toBe(1);
  });

  it('is compared between choices with the same care as anything else', () => {
    const lost = (level: number, repeat: number) => (level ? 4 : 24) + (repeat % 3);
    const records = plan.patches.flatMap(p => [
      ...photo(p.code, 80),
      ...photo(p.code, 80 * (1 - lost(p.levels[0] ?? 0, p.repeat) / 100), 'wash'),
    ]);
    const lasting = lastingOf(plan, records);
    expect(lasting.map(l => [l.test, l.factor])).toEqual([['wash', 0]]);
    const [wash] = lasting;
    expect(wash.best).toBe(1);
    expect(wash.levels[0].mean - wash.levels[1].mean).toBeCloseTo(20, 0);
    expect(write(wash.sentence)).toMatch(
      /^Spray clear, four light coats (most likely )?loses less than .*, by about 1\d\.\d points|loses less than .*by about 20/,
    );
    expect(lastingOf(plan, [])).toEqual([]);
    // A patch that was written off has no say.
    const spoilt: TrialRecord = {
      id: 'x',
      at: '2026-05-09T10:00:00.000Z',
      kind: 'spoilt',
      patch: first.code,
      why: 'x',
    };
    const level = first.levels[0];
    expect(lastingOf(plan, [...records, spoilt])[0].levels[level].n).toBe(wash.levels[level].n - 1);
  });
});
