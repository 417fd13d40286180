import { describe, expect, it } from 'vitest';
import { examplePlan } from '../../../core/design/example.ts';
import { readingFor } from '../../../core/trial/example.ts';
import type { TrialRecord } from '../../../core/trial/index.ts';
import type { RecordDraft } from '../../../store/index.ts';
import {
  betterOfKey,
  blindState,
  gradeDraft,
  gradeOfKey,
  judgeable,
  judgementOf,
  judgeNamed,
  nextToJudge,
  pairDraft,
  pairState,
  photoOf,
  verdictDraft,
  verdictFor,
  withSymptom,
} from './judge.model.ts';

const plan = examplePlan();
const [a, b, c] = plan.patches.map(p => p.code);
let count = 0;
const kept = (draft: RecordDraft): TrialRecord =>
  ({
    id: `k${++count}`,
    at: new Date(Date.parse('2026-05-04T08:00:00Z') + count).toISOString(),
    ...draft,
  }) as never;
const photos = [...readingFor(a, 1, {}), ...readingFor(b, 2, {}), ...readingFor(c, 3, {})];

describe('judging seen', () => {
  it('goes to the first of the plan without a verdict, never to the one it comes from', () => {
    const one = verdictDraft(a, { verdict: 'keep', grade: 4, symptoms: [] })!;
    expect(nextToJudge(plan, [])?.code).toBe(a);
    expect(nextToJudge(plan, [], plan.patches[0])?.code).toBe(b);
    expect(nextToJudge(plan, [kept(one)])?.code).toBe(b);
    const all = plan.patches.map(p => kept({ ...one, patch: p.code }));
    expect(nextToJudge(plan, all)).toBeUndefined();
  });

  it('opens with what was said last, and records nothing while verdict or grade is missing', () => {
    const form = { verdict: 'fix', grade: 3, symptoms: ['haze'] } as const;
    const draft = verdictDraft(a, form as never)!;
    expect(draft).toEqual({ kind: 'verdict', patch: a, verdict: 'fix', grade: 3, symptoms: ['haze'] });
    expect(judgementOf([kept(draft)], a)).toEqual(form);
    expect(judgementOf([], a)).toEqual({ verdict: undefined, grade: 0, symptoms: [] });
    expect(verdictDraft(a, { verdict: undefined, grade: 3, symptoms: [] })).toBeUndefined();
    expect(verdictDraft(a, { verdict: 'keep', grade: 0, symptoms: [] })).toBeUndefined();
  });

  it('ticks a symptom and takes the tick away again, the others stay', () => {
    const form = { verdict: 'fix', grade: 2, symptoms: [] } as const;
    const two = withSymptom(withSymptom(form, 'veil' as never), 'smear' as never);
    expect(two.symptoms).toEqual(['veil', 'smear']);
    expect(withSymptom(two, 'veil' as never).symptoms).toEqual(['smear']);
  });
});

describe('judging blind', () => {
  it('is by photos only: the straightened one, else the last that was kept', () => {
    expect(judgeable(plan, photos)).toEqual([a, b, c]);
    expect(photoOf(photos, a)).toBe('p1');
    const read = photos.map(r => (r.kind === 'reading' && r.patch === a ? { ...r, straight: 'p1s' } : r));
    expect(photoOf(read, a)).toBe('p1s');
    expect(photoOf([], a)).toBeUndefined();
  });

  it.each([
    [1, 'scrap'],
    [2, 'scrap'],
    [3, 'fix'],
    [4, 'keep'],
    [5, 'keep'],
  ])('grade %i counts as %s', (grade, verdict) => {
    expect(verdictFor(grade)).toBe(verdict);
    expect(gradeDraft(a, grade, 'Ada')).toEqual({
      ...{ kind: 'verdict', patch: a, verdict, grade, symptoms: [], blind: true, judge: 'Ada' },
    });
  });

  it('counts only what this judge graded blind', () => {
    const { order, code, number } = blindState(plan, photos, 'me');
    expect([...order].sort()).toEqual([a, b, c].sort());
    expect([code, number]).toEqual([order[0], 1]);
    const first = (judge: string, part = {}) =>
      kept({ ...gradeDraft(order[0], 3, judge), ...part } as RecordDraft);
    expect(blindState(plan, [...photos, first('other')], 'me').code).toBe(order[0]);
    expect(blindState(plan, [...photos, first('me', { blind: undefined })], 'me').code).toBe(order[0]);
    expect(blindState(plan, [...photos, first('me')], 'me')).toMatchObject({ code: order[1], number: 2 });
    const all = order.map(patch => kept(gradeDraft(patch, 3, 'me')));
    expect(blindState(plan, [...photos, ...all], 'me').code).toBeUndefined();
    // What was taken back is to be graded again.
    const undo: TrialRecord = { ...kept({ kind: 'undo', patch: null, of: all[0].id }) };
    expect(blindState(plan, [...photos, ...all, undo], 'me').code).toBe(order[0]);
  });

  it('is of nobody in particular where no name was typed, and of a name without the blanks round it', () => {
    expect(judgeNamed('   ')).toBe('me');
    expect(judgeNamed(' Ada ')).toBe('Ada');
    expect(judgeNamed('x'.repeat(60))).toHaveLength(40);
  });

  it.each([
    ['1', 1],
    ['5', 5],
    ['0', undefined],
    ['6', undefined],
    [' ', undefined],
    ['12', undefined],
    ['u', undefined],
  ])('key “%s” gives %s', (key, grade) => {
    expect(gradeOfKey(key)).toBe(grade);
  });
});

describe('judging in pairs', () => {
  it.each([
    ['ArrowLeft', 'this'],
    ['ArrowRight', 'other'],
    ['ArrowDown', 'neither'],
    ['ArrowUp', undefined],
    ['Enter', undefined],
  ])('key %s says %s', (key, better) => {
    expect(betterOfKey(key)).toBe(better);
  });

  it('records the left as “this”, with who said so', () => {
    const { next } = pairState(plan, photos, 'me');
    expect(pairDraft(next!, 'this', 'me')).toEqual({
      ...{ kind: 'pair', patch: next!.a, other: next!.b, better: 'this', judge: 'me' },
    });
  });

  it('comes to every patch, to an order and to an end', () => {
    const worth = new Map([
      [a, 1],
      [b, 3],
      [c, 2],
    ]);
    const records = [...photos];
    const seen = new Set<string>();
    for (let n = 0; n < 40; n++) {
      const { next } = pairState(plan, records, 'me');
      if (!next) break;
      seen.add(next.a).add(next.b);
      const better = worth.get(next.a)! > worth.get(next.b)! ? 'this' : 'other';
      records.push(kept(pairDraft(next, better, 'me')));
    }
    expect([...seen].sort()).toEqual([a, b, c].sort());
    expect(pairState(plan, records, 'me').next).toBeUndefined();
    // Another judge begins with pairs of their own.
    expect(pairState(plan, records, 'other').next).toBeDefined();
  });
});
