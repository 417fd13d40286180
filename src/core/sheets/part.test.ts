import { describe, expect, it } from 'vitest';
import { examplePlan } from '../design/example.ts';
import { furtherBatch } from '../design/index.ts';
import { ProblemError } from '../outcome/index.ts';
import { STARTER_SHELF } from '../shelf/index.ts';
import { planNow, type TrialRecord } from '../trial/index.ts';
import { donorSets, labelSheets, mapSheets, nextPart, onlyPart, partsOf } from './index.ts';

const made = examplePlan();
const at = (minute: number) => new Date(Date.UTC(2026, 4, 2, 8, minute)).toISOString();
const added = (records: readonly TrialRecord[], minute: number): TrialRecord => {
  const batch = furtherBatch(made, records, { what: 'again', combinations: [[0, 0]] }, STARTER_SHELF);
  if (!batch.ok) throw new ProblemError(batch.problem);
  return { id: `b${minute}`, at: at(minute), kind: 'change', patch: null, change: batch.value };
};
const step = (patch: string, minute: number, also?: string[]): TrialRecord => ({
  ...{ id: `s${patch}`, at: at(minute), kind: 'step', patch, step: 'mark', round: 1 },
  ...(also ? { also } : {}),
});
const first = made.patches[0].code;

describe('what is printed by itself', () => {
  it('is nothing as long as nothing was added', () => {
    expect(partsOf(made)).toEqual([]);
    expect(nextPart(made, [step(first, 1)])).toBeUndefined();
  });

  it('is what was added, on sheets and labels of its own', () => {
    const records = [step(first, 1), added([], 5)];
    const plan = planNow(made, records);
    const more = plan.patches.length - made.patches.length;
    expect(more).toBeGreaterThan(0);
    expect(partsOf(plan)).toEqual([
      { batch: 0, name: 'what was planned first', patches: made.patches.length },
      { batch: 1, name: 'what was added', patches: more },
    ]);
    expect(nextPart(plan, records)).toBe(1);
    const own = onlyPart(plan, 1);
    expect(own.patches).toHaveLength(more);
    expect(donorSets(own).reduce((n, s) => n + s.pieces, 0)).toBe(more);
    expect(donorSets(onlyPart(plan, 0)).reduce((n, s) => n + s.pieces, 0)).toBe(made.patches.length);
    expect(JSON.stringify(labelSheets(own).pages)).not.toContain(`"${first}"`);
    // Its map is of its own board, which keeps its name; the others' are not printed again.
    const wordsOf = (part: typeof plan) =>
      mapSheets(part)
        .pages.flatMap(({ marks }) => marks)
        .map(m => JSON.stringify(m))
        .join();
    const boards = plan.board.count;
    expect(boards).toBe(made.board.count + 1);
    expect(wordsOf(own)).toContain(`Board ${boards} of ${boards}`);
    expect(wordsOf(own)).toContain('Map of the board');
    for (const before of made.patches.map(p => p.board))
      expect(wordsOf(own)).not.toContain(`Board ${before + 1} of ${boards}`);
    expect(wordsOf(plan)).toContain(`Board 1 of ${boards}`);
  });

  it('is all of it before anything is begun, and once the last batch is', () => {
    const one = [added([], 5)];
    const plan = planNow(made, one);
    expect(nextPart(plan, one)).toBeUndefined();
    const own = onlyPart(plan, 1).patches.map(p => p.code);
    expect(nextPart(plan, [step(first, 1), ...one, step(own[0], 9)])).toBeUndefined();
    // One that was made in one go with others is begun as well.
    expect(nextPart(plan, [...one, step(first, 9, [own[0]])])).toBeUndefined();
  });

  it('of a second batch is that one, with its number', () => {
    const one = [step(first, 1), added([], 5)];
    const two = [...one, added(one, 7)];
    const plan = planNow(made, two);
    expect(partsOf(plan).map(p => p.name)).toEqual([
      'what was planned first',
      'what was added',
      'what was added, 2.',
    ]);
    expect(nextPart(plan, two)).toBe(2);
  });
});
