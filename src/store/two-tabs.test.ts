import { describe, expect, it } from 'vitest';
import { examplePlan } from '../core/design/example.ts';
import { movePatch } from '../core/design/index.ts';
import { copyMethod, METHODS } from '../core/methods/index.ts';
import { STARTER_SHELF } from '../core/shelf/index.ts';
import type { TrialRecord } from '../core/trial/index.ts';
import { EXAMPLE_PICTURE, emptyData, memoryStores } from './example.ts';
import { mergeFields } from './merge.ts';
import { openWorkshop } from './workshop.ts';

const plan = examplePlan({ board: { w: 400, h: 300, outline: 'rectangle', onePiece: false } });
const step = (id: string, patch: string): TrialRecord => ({
  id,
  at: '2026-05-02T09:01:00.000Z',
  kind: 'step',
  patch,
  step: 'mark',
  round: 1,
});

/** Two tabs of one browser: two repositories over the same storage. */
function tabs() {
  const data = emptyData();
  const open = () => openWorkshop('mine', { stores: async () => memoryStores(data).stores });
  return [open(), open()] as const;
}

describe('two tabs at once', () => {
  it('both keep their change of a plan', async () => {
    const [one, other] = tabs();
    await one.savePlan(plan);
    const [a, b] = plan.patches;
    const free = (code: string, x: number) => (now: typeof plan) =>
      movePatch(now, code, { board: 0, x, y: 230 });
    for (const round of [12, 14, 16]) {
      const [first, second] = await Promise.all([
        one.changePlan(plan.id, free(a.code, round)),
        other.changePlan(plan.id, free(b.code, 300 + round)),
      ]);
      expect([first.ok, second.ok]).toEqual([true, true]);
      const now = await one.plan(plan.id);
      const at = (code: string) => now?.ok && now.value.patches.find(p => p.code === code)?.x;
      expect([at(a.code), at(b.code)]).toEqual([round, 300 + round]);
    }
  });

  it('are told when the other’s change leaves no room for theirs, and nothing is stored', async () => {
    const [one, other] = tabs();
    await one.savePlan(plan);
    const [a, b] = plan.patches;
    const there = { board: 0, x: 12, y: 230 };
    const both = await Promise.all([
      one.changePlan(plan.id, now => movePatch(now, a.code, there)),
      other.changePlan(plan.id, now => movePatch(now, b.code, there)),
    ]);
    expect(both.map(r => r.ok).sort()).toEqual([false, true]);
    const lost = both.find(r => !r.ok);
    expect(lost && !lost.ok && lost.problem.code).toBe('too-close');
    const gone = await one.changePlan('nobody', now => ({ ok: true, value: now }));
    expect(!gone.ok && gone.problem.code).toBe('no-trial');
  });

  it('lose no record of a hundred presses', async () => {
    const [one, other] = tabs();
    await one.savePlan(plan);
    const code = plan.patches[0].code;
    await Promise.all(
      Array.from({ length: 50 }, (_, i) => [
        one.append(plan.id, [step(`a${i}`, code)]),
        other.append(plan.id, [step(`b${i}`, code)]),
      ]).flat(),
    );
    for (const tab of [one, other]) expect((await tab.records(plan.id)).records).toHaveLength(100);
  });

  it('see the summary of what was recorded last, whoever made it', async () => {
    const [one, other] = tabs();
    await one.savePlan(plan);
    const standing = async (tab: typeof one) => (await tab.overview()).trials[0].summary.standing;
    expect(await standing(one)).toBe('planned');
    await Promise.all([other.append(plan.id, [step('a', plan.patches[0].code)]), one.overview()]);
    expect([await standing(one), await standing(other)]).toEqual(['under way', 'under way']);
  });

  it('ask only marked logs for what came after a summary, and all of them a little later', async () => {
    const data = emptyData();
    const marked = new Set<string>();
    const marks = {
      add: (trial: string) => void marked.add(trial),
      remove: (trial: string) => void marked.delete(trial),
      has: (trial: string) => marked.has(trial),
    };
    const open = () => openWorkshop('mine', { stores: async () => memoryStores(data).stores, marks });
    const [one, other] = [open(), open()];
    await one.savePlan(plan);
    const standing = async (tab: typeof one) => (await tab.overview()).trials[0].summary.standing;
    expect(await standing(one)).toBe('planned');
    await other.append(plan.id, [step('a', plan.patches[0].code)]);
    expect([...marked]).toEqual([plan.id]);
    expect(await standing(one)).toBe('under way');
    expect(marked.size).toBe(0);
    // A mark that was lost in a crash: the summary is taken as it is until every log was asked.
    await other.append(plan.id, [
      { id: 'u', at: '2026-05-02T09:02:00.000Z', kind: 'undo', patch: null, of: 'a' },
    ]);
    marked.clear();
    expect(await standing(one)).toBe('under way');
    expect(await one.recheck()).toBe(true);
    expect(await standing(one)).toBe('planned');
    expect(await one.recheck()).toBe(false);
  });

  it('keep two copies of a method under two names', async () => {
    const [one, other] = tabs();
    const copy = copyMethod(METHODS[0], []);
    const [a, b] = await Promise.all([
      one.addMethod({ ...copy, name: 'Mine' }),
      other.addMethod({ ...copy, name: 'Another' }),
    ]);
    expect(a.id).not.toBe(b.id);
    expect((await one.methods()).map(m => m.name).sort()).toEqual(['Another', 'Mine']);
  });

  it('both keep what they changed of one method, one jar and one picture', async () => {
    const [one, other] = tabs();
    const method = await one.addMethod(copyMethod(METHODS[0], []));
    await Promise.all([
      one.saveMethod({ ...method, name: 'Slow rub' }, method),
      other.saveMethod({ ...method, care: 'Dust it only.' }, method),
    ]);
    expect((await one.methods())[0]).toMatchObject({ name: 'Slow rub', care: 'Dust it only.' });
    const jar = STARTER_SHELF.mediums[1];
    await Promise.all([
      one.saveItems('mediums', [{ ...jar, onHandMl: 5 }], [jar]),
      other.saveItems('mediums', [{ ...jar, note: 'nearly empty' }], [jar]),
    ]);
    const kept = (await other.shelf()).shelf.mediums.find(m => m.id === jar.id);
    expect(kept).toMatchObject({ onHandMl: 5, note: 'nearly empty' });
    const whole = EXAMPLE_PICTURE;
    await one.savePicture(whole);
    await Promise.all([
      one.savePicture({ ...whole, name: 'Old Marmalade' }, whole),
      other.savePicture({ ...whole, marginMm: 9 }, whole),
    ]);
    expect((await one.pictures())[0]).toMatchObject({ name: 'Old Marmalade', marginMm: 9 });
  });

  it('add two things to the shelf, and both stand on it in an order', async () => {
    const [one, other] = tabs();
    const tool = STARTER_SHELF.tools[0];
    await Promise.all([
      one.saveItems('tools', [{ ...tool, id: 'card-a', name: 'Card A' }]),
      other.saveItems('tools', [{ ...tool, id: 'card-b', name: 'Card B' }]),
    ]);
    const names = (await one.shelf()).shelf.tools.map(t => t.name);
    expect(names.slice(-2).sort()).toEqual(['Card A', 'Card B']);
    expect(names).toHaveLength(STARTER_SHELF.tools.length + 2);
  });

  it('that erase what the other still works on say so instead of keeping records of nothing', async () => {
    const [one, other] = tabs();
    await one.savePlan(plan);
    await other.erase(plan.id);
    await expect(one.append(plan.id, [step('a', plan.patches[0].code)])).rejects.toThrow(/erased/);
  });
});

describe('a merge field by field', () => {
  const base = { a: 1, b: [1], c: 'x' as string | undefined };
  it('takes what was changed, and leaves what was not as it is now', () => {
    expect(mergeFields(base, { ...base, a: 2 }, { ...base, b: [2] })).toEqual({ a: 2, b: [2], c: 'x' });
  });
  it('takes the later of two changes of the same, and what was taken out stays out', () => {
    expect(mergeFields(base, { ...base, a: 2 }, { ...base, a: 3 }).a).toBe(2);
    expect(mergeFields(base, { a: 1, b: [1], c: undefined }, base)).toEqual({ a: 1, b: [1] });
  });
  it('without anything to compare with takes it whole', () => {
    expect(mergeFields(undefined, base, { ...base, a: 9 })).toBe(base);
    expect(mergeFields(base, base, undefined)).toBe(base);
  });
});
