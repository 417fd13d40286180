import { describe, expect, it } from 'vitest';
import { examplePlan } from '../design/example.ts';
import { ProblemError } from '../outcome/index.ts';
import { chainOf } from '../steps/index.ts';
import { readingFor } from '../trial/example.ts';
import { readingsOf, type TrialRecord } from '../trial/index.ts';
import {
  guessOf,
  milkOver,
  type PhotoSeen,
  roundsSeen,
  stageNow,
  wetUntil,
  wornBy,
  wornOtherwise,
} from './index.ts';

const plan = examplePlan();
const [a, b, c] = [...plan.patches].sort((x, y) => x.order - y.order).map(p => p.code);
const photo = (part: Partial<PhotoSeen> = {}): PhotoSeen => ({
  ...{ name: 'IMG_1.jpg', holds: 'card', takenAt: null },
  ...part,
});
const start = Date.parse('2026-03-02T08:00:00Z');
const step = (patch: string, id: string, min: number, round = 1): TrialRecord => ({
  ...{ id: `${patch}${id}${round}`, kind: 'step', patch, step: id, round },
  at: new Date(start + min * 60_000).toISOString(),
});
const at = (min: number) => new Date(start + min * 60_000).toISOString();
const guess = (seen: PhotoSeen, records: TrialRecord[] = [], known: Parameters<typeof guessOf>[2] = {}) => {
  const found = guessOf(seen, { plan, records }, known);
  if (!found.ok) throw new ProblemError(found.problem);
  return found.value;
};

describe('what a photo is of', () => {
  it('is said by its label before its name, and by its name before a hand', () => {
    const says = `WET TEST ${plan.id} ${b}`;
    const sure = guess(photo({ name: `${a}.jpg`, says }), [], { chosen: c, isAlone: true });
    expect(sure).toMatchObject({ aim: { code: b }, isSure: true, why: 'Its label is in the photo.' });
    const named = guess(photo({ name: `photo ${a.toLowerCase()}.jpg` }), [], { chosen: c, isAlone: true });
    expect(named).toMatchObject({ aim: { code: a }, isSure: true });
    expect(guess(photo(), [], { chosen: c, isAlone: true })).toMatchObject({
      aim: { code: c },
      isSure: true,
    });
  });

  it('is refused where its label is of another trial; a label that is none says nothing', () => {
    const other = guessOf(photo({ says: 'WET TEST OTHER K7-3AF' }), { plan, records: [] }, {});
    expect(other).toMatchObject({ ok: false, problem: { code: 'other-trial' } });
    expect(guess(photo({ says: 'https://a.page' })).aim).toEqual({ code: a });
    expect(guess(photo({ says: `WET TEST ${plan.id} NO-SUCH` })).isSure).toBe(false);
  });

  it('of several without a name is asked about: from the chosen one on, in the order of work', () => {
    const first = guess(photo(), [], { chosen: b });
    expect(first).toMatchObject({ aim: { code: b }, isSure: false, why: 'You chose it.' });
    const second = guess(photo(), [], { chosen: b, given: [b] });
    expect(second).toMatchObject({ aim: { code: c }, isSure: false });
    expect(second.why).toContain(b);
  });

  it('is told by its time: what was done to last, for twenty minutes', () => {
    const records = [step(a, 'mark', 0), step(b, 'mark', 30), step(c, 'mark', 90)];
    expect(guess(photo({ takenAt: at(49) }), records)).toMatchObject({ aim: { code: b }, isSure: false });
    expect(guess(photo({ takenAt: at(49) }), records).why).toBe(
      'Taken 19 min after something was done to it.',
    );
    expect(guess(photo({ takenAt: at(30.2) }), records).why).toContain('within a minute');
    // Too long after it, and what came later says nothing.
    expect(guess(photo({ takenAt: at(51) }), records).aim).toEqual({ code: a });
    // One that another photo was given to already is not guessed again.
    expect(guess(photo({ takenAt: at(31) }), records, { given: [b] }).aim).toEqual({ code: a });
  });

  it('else is the next without a photo', () => {
    const read = readingFor(a, 1, { landed: 90, veil: 0.1 });
    expect(guess(photo(), read)).toMatchObject({ aim: { code: b }, why: 'It is the next without a photo.' });
  });

  it('is a whole board where corner pieces are in it: the only one, the chosen patch’s, or the first without photos', () => {
    expect(guess(photo({ holds: 'corners' }))).toMatchObject({ aim: { board: 0 }, isSure: true });
    const two = { ...plan, patches: plan.patches.map((p, i) => ({ ...p, board: i < 6 ? 0 : 1 })) };
    const of = (known: Parameters<typeof guessOf>[2], records: TrialRecord[] = [], name = 'x.jpg') =>
      guessOf(photo({ holds: 'corners', name }), { plan: two, records }, known);
    const onSecond = two.patches[8].code;
    expect(of({ chosen: onSecond })).toMatchObject({ value: { aim: { board: 1 }, isSure: true } });
    expect(of({}, [], `${onSecond}.jpg`)).toMatchObject({ value: { aim: { board: 1 }, isSure: true } });
    expect(of({})).toMatchObject({ value: { aim: { board: 0 }, isSure: false } });
    const read = two.patches.slice(0, 6).flatMap((p, i) => readingFor(p.code, i, { landed: 90, veil: 0.1 }));
    expect(of({}, read)).toMatchObject({ value: { aim: { board: 1 }, isSure: false } });
  });
});

describe('whether a patch was still wet', () => {
  const chain = chainOf(plan, plan.patches[0]);
  const rub = chain.find(l => l.step.does === 'rub')!;
  const wet = chain.find(l => l.step.does === 'wet')!;
  const code = plan.patches[0].code;
  const rubbed = [step(code, 'mark', 0), step(code, wet.step.id, 10), step(code, rub.step.id, 14)];

  it('it was from being wetted until what follows the rubbing has dried', () => {
    const until = wetUntil({ plan, records: rubbed }, code, start + 15 * 60_000)!;
    expect(until).toBeGreaterThan(start + 30 * 60_000);
    expect(wetUntil({ plan, records: rubbed }, code, until - 1000)).toBe(until);
    expect(wetUntil({ plan, records: rubbed }, code, until + 1000)).toBeUndefined();
    expect(wetUntil({ plan, records: rubbed }, code, start + 11 * 60_000)).toBe(Number.POSITIVE_INFINITY);
  });

  it('it was not before anything was wetted, nor is one that nothing is known of', () => {
    expect(wetUntil({ plan, records: rubbed }, code, start + 5 * 60_000)).toBeUndefined();
    expect(wetUntil({ plan, records: [] }, code, start)).toBeUndefined();
    expect(wetUntil({ plan, records: rubbed }, 'none', start)).toBeUndefined();
  });
});

describe('what a patch had been through when it was photographed', () => {
  const worn = { ...plan, wear: ['dry-rub', 'wash'] as const };
  const trialled = (records: readonly TrialRecord[]) => ({
    plan: { ...worn, wear: [...worn.wear] },
    records,
  });
  const rubbed = step(a, 'wear-dry-rub', 10);
  const both = trialled([rubbed, { ...step(b, 'wear-wash', 60), also: [a] } as TrialRecord]);
  const when = (min: number) => Date.parse(at(min));

  it('is the last wear test that was recorded by then, of its own or in one go with others', () => {
    expect([9, 10, 59, 60, 900].map(min => wornBy(both, a, when(min)))).toEqual([
      undefined,
      'dry-rub',
      'dry-rub',
      'wash',
      'wash',
    ]);
    expect(wornBy(both, b, when(900))).toBe('wash');
    expect(wornBy(both, c, when(900))).toBeUndefined();
    expect(wornBy(both, 'none', when(900))).toBeUndefined();
  });

  it('leaves out what was skipped or taken back', () => {
    expect(wornBy(trialled([{ ...rubbed, skipped: true } as TrialRecord]), a, when(20))).toBeUndefined();
    const undo = { id: 'u', kind: 'undo', of: rubbed.id, patch: null, at: at(11) } as TrialRecord;
    expect(wornBy(trialled([rubbed, undo]), a, when(20))).toBeUndefined();
  });

  it('is filed wet in the midst of the work and while a wash dries, and dry to be looked at, worn by what it was', () => {
    const chain = chainOf(both.plan, both.plan.patches.find(p => p.code === a)!);
    const next = (id: string) => chain.find(l => l.step.id === id)!;
    expect(stageNow(trialled([]), a, next('rub'), when(0))).toEqual({ stage: 'wet' });
    expect(stageNow(both, a, next('worn-dry-rub'), when(11))).toEqual({ stage: 'dry', worn: 'dry-rub' });
    // A wash dries for twenty minutes at the least.
    expect(stageNow(both, a, next('worn-wash'), when(61))).toEqual({ stage: 'wet', worn: 'wash' });
    expect(stageNow(both, a, next('worn-wash'), when(900))).toEqual({ stage: 'dry', worn: 'wash' });
  });

  it('is otherwise than said where records say so, and never where they are silent', () => {
    expect(wornOtherwise(both, a, when(20), undefined)).toBe('dry-rub');
    expect(wornOtherwise(both, a, when(20), 'wash')).toBe('dry-rub');
    expect(wornOtherwise(both, a, when(20), 'dry-rub')).toBeUndefined();
    expect(wornOtherwise(both, a, when(5), 'dry-rub')).toBe('none');
    expect(wornOtherwise(both, a, when(5), undefined)).toBeUndefined();
    // Nobody recorded a test of this one: that it is worn may well be so.
    expect(wornOtherwise(both, c, when(90), 'wash')).toBeUndefined();
  });
});

const seenAfter = (round: number, landed: number, veil: number | null, day = 0, n = round) =>
  readingFor(a, n, { landed, veil }).map(r => {
    const taken = new Date(start + day * 86_400_000).toISOString();
    return r.kind === 'photo' ? { ...r, round, takenAt: taken, at: taken } : { ...r, at: taken };
  });

describe('rounds side by side', () => {
  it('say what each took off, and what one more would bring by the same share', () => {
    const { steps, next, isWorthIt } = roundsSeen(
      readingsOf([...seenAfter(1, 92, 0.4), ...seenAfter(2, 91.5, 0.2), ...seenAfter(3, 91, 0.1)], a),
    );
    expect(steps.map(s => s.round)).toEqual([1, 2, 3]);
    expect(steps[2].took!.veil).toBeCloseTo(0.1, 10);
    expect(steps[1].took!.landed).toBeCloseTo(0.5, 10);
    expect(next).toBeCloseTo(0.05, 10);
    expect(isWorthIt).toBe(true);
  });

  it('are not worth another where little veil is left, or the last one cost picture', () => {
    const thin = roundsSeen(readingsOf([...seenAfter(1, 92, 0.08), ...seenAfter(2, 92, 0.04)], a));
    expect(thin.next).toBeCloseTo(0.02, 10);
    expect(thin.isWorthIt).toBe(false);
    const costly = roundsSeen(readingsOf([...seenAfter(1, 92, 0.4), ...seenAfter(2, 89, 0.2)], a));
    expect(costly.isWorthIt).toBe(false);
    expect(roundsSeen(readingsOf(seenAfter(1, 92, 0.4), a))).toEqual({
      steps: [{ round: 1, veil: 0.4, landed: 92 }],
      isWorthIt: false,
    });
  });
});

describe('milk over the days', () => {
  const days = (...values: number[]) =>
    readingsOf(
      values.flatMap((veil, day) => seenAfter(1, 99, veil, day, day)),
      a,
    );

  it('goes by the same share each day, and is said when it will be gone', () => {
    const { clear, isClear } = milkOver(days(0.4, 0.2));
    expect(isClear).toBe(false);
    // Three halvings from 0.4 to 0.05.
    expect((clear!.at - start) / 86_400_000).toBeCloseTo(3, 6);
    expect(clear!.from).toBeLessThan(clear!.at);
    expect(clear!.to).toBeGreaterThan(clear!.at);
    const longer = milkOver(days(0.4, 0.2, 0.1));
    expect(longer.clear!.to - longer.clear!.from).toBeLessThan(clear!.to - clear!.from);
  });

  it('is clear below a twentieth, and no day is said where it does not fall', () => {
    expect(milkOver(days(0.2, 0.05)).isClear).toBe(true);
    expect(milkOver(days(0.2, 0.051)).isClear).toBe(false);
    expect(milkOver(days(0.3, 0.3)).clear).toBeUndefined();
    expect(milkOver(days(0.3, 0.29)).clear).toBeUndefined();
    expect(milkOver(days(0.3)).clear).toBeUndefined();
  });
});
