import { describe, expect, it } from 'vitest';
import { checkTrial, parseRecord } from '../bundle/index.ts';
import { examplePlan } from '../design/example.ts';
import {
  furtherBatch,
  inPlaceOf,
  leavingOut,
  movePatch,
  moving,
  planTrial,
  requestOf,
  swapPatches,
} from '../design/index.ts';
import { fitCases } from '../models/index.ts';
import { ProblemError } from '../outcome/index.ts';
import { type Words, write } from '../say/index.ts';
import { STARTER_SHELF } from '../shelf/index.ts';
import { summaryOf } from '../summary/index.ts';
import {
  type Change,
  changesIn,
  isArchived,
  levelNames,
  planEver,
  planNow,
  recordWords,
  settingsOf,
  type TrialPlan,
  type TrialRecord,
} from './index.ts';

const plan = examplePlan();
const shelf = STARTER_SHELF;
let count = 0;
const at = (minute: number) =>
  new Date(Date.parse('2026-05-02T09:00:00.000Z') + minute * 60_000).toISOString();
const changed = (change: Change, minute = count): TrialRecord => ({
  id: `c${++count}`,
  at: at(minute),
  kind: 'change',
  patch: null,
  change,
});
const step = (patch: string, id: string, minute = count): TrialRecord => ({
  id: `s${++count}`,
  at: at(minute),
  kind: 'step',
  patch,
  step: id,
  round: 1,
});
const undone = (of: string): TrialRecord => ({
  id: `u${++count}`,
  at: at(900),
  kind: 'undo',
  patch: null,
  of,
});
const batch = (
  records: readonly TrialRecord[] = [],
  ask: Parameters<typeof furtherBatch>[2] = { what: 'again' },
) => {
  const found = furtherBatch(plan, records, ask, shelf);
  if (!found.ok) throw new ProblemError(found.problem);
  return found.value;
};
const why = (found: { ok: boolean; problem?: { say: Words } }) =>
  found.ok ? 'done' : write(found.problem!.say);

describe('a plan that changes', () => {
  it('is the plan itself, the same object, while nothing is changed', () => {
    expect(planNow(plan, [step(plan.patches[0].code, 'mark')])).toBe(plan);
    const records = [changed({ what: 'tags', tags: ['winter'] })];
    expect(planNow(plan, records)).toBe(planNow(plan, records));
    expect(planNow(plan, records).tags).toEqual(['winter']);
    expect(plan.tags).toBeUndefined();
  });

  it('follows its changes in order of time, and goes back with each that is taken back', () => {
    const first = changed({ what: 'words', name: 'Tide tins', question: 'Which?' }, 5);
    const second = changed({ what: 'words', name: 'Kit bags', question: 'Which?' }, 9);
    expect(planNow(plan, [second, first]).name).toBe('Kit bags');
    expect(planNow(plan, [first, second, undone(second.id)]).name).toBe('Tide tins');
    expect(planNow(plan, [first, second, undone(second.id), undone(first.id)]).name).toBe(plan.name);
    expect(changesIn([first, second, undone(second.id)])).toEqual([first]);
  });

  it('can be put away and taken up again', () => {
    const away = changed({ what: 'archive', archived: true }, 1);
    expect(isArchived([])).toBe(false);
    expect(isArchived([away])).toBe(true);
    expect(isArchived([away, changed({ what: 'archive', archived: false }, 2)])).toBe(false);
    expect(summaryOf({ plan, records: [away] }).archived).toBe(true);
  });

  it('says in a cell what was changed and why', () => {
    const record = { ...changed({ what: 'drop', patches: [plan.patches[0].code] }), why: 'The board split.' };
    expect(recordWords(record as TrialRecord)).toBe(`left out ${plan.patches[0].code}: The board split.`);
    expect(recordWords(changed(batch()))).toBe(`${plan.patches.length / plan.repeats} more patches`);
  });
});

describe('a further batch', () => {
  it('is every combination once more, on a board of its own, in an order and places of its own', () => {
    const more = batch();
    const kinds = new Set(plan.patches.map(p => p.levels.join()));
    expect(more.patches).toHaveLength(kinds.size);
    expect(new Set(more.patches.map(p => p.levels.join()))).toEqual(kinds);
    expect(more.patches.every(p => p.board >= plan.board.count && p.batch === 1)).toBe(true);
    expect(more.boards).toBe(plan.board.count + 1);
    const now = planNow(plan, [changed(more)]);
    expect(new Set(now.patches.map(p => p.code)).size).toBe(now.patches.length);
    expect(new Set(now.patches.map(p => p.order)).size).toBe(now.patches.length);
    expect(Math.min(...more.patches.map(p => p.order))).toBe(1 + Math.max(...plan.patches.map(p => p.order)));
    // Not in the order of the combinations.
    expect(more.patches.map(p => p.levels.join())).not.toEqual([...kinds]);
    // What was made keeps its place.
    expect(now.patches.slice(0, plan.patches.length)).toEqual(plan.patches);
    // Made alike means another repeat.
    for (const p of more.patches)
      expect(plan.patches.filter(o => o.levels.join() === p.levels.join()).map(o => o.repeat)).not.toContain(
        p.repeat,
      );
  });

  it('after another has codes and a number of its own, also when that one was taken back', () => {
    const first = changed(batch());
    const second = batch([first, undone(first.id)]);
    const codes = new Set(
      first.kind === 'change' && first.change.what === 'batch' ? first.change.patches.map(p => p.code) : [],
    );
    expect(second.patches.some(p => codes.has(p.code))).toBe(false);
    expect(second.patches[0].batch).toBe(2);
    const ever = planEver(plan, [first, undone(first.id), changed(second)]);
    expect(ever.patches).toHaveLength(plan.patches.length + 2 * second.patches.length);
  });

  it('with another level has all that goes with it, and old ones by which the board can be told from the level', () => {
    const f = plan.factors.findIndex(x => x.key === 'dryHours');
    const more = batch([], { what: 'level', factor: f, level: 30 });
    expect(more.factors![f].levels).toEqual([...plan.factors[f].levels, 30]);
    const now = planNow(plan, [changed(more)]);
    const fresh = more.patches.filter(p => p.levels[f] === plan.factors[f].levels.length);
    const others = plan.factors.reduce((n, x, i) => (i === f ? n : n * x.levels.length), 1);
    expect(fresh).toHaveLength(others * plan.repeats);
    expect(fresh.every(p => settingsOf(now, p).dryHours === 30)).toBe(true);
    const old = more.patches.filter(p => !fresh.includes(p));
    expect(old).toHaveLength(others);
    expect(new Set(old.map(p => p.levels[f])).size).toBe(1);
    // With the old ones in it the level can be estimated beside the board; without them it could not.
    const values = (patches: TrialPlan['patches']) =>
      patches.map(p => ({
        code: p.code,
        levels: p.levels,
        shares: [`${p.board}`],
        value: 60 + 9 * p.levels[f] + 4 * p.board + ((p.order * 7) % 3),
      }));
    const counts = now.factors.map(x => x.levels.length);
    const fit = fitCases({ counts, pairs: [] }, values(now.patches))!;
    expect(fit.difference(f, plan.factors[f].levels.length, 0)!.value).toBeCloseTo(
      9 * plan.factors[f].levels.length,
      0,
    );
  });

  it('with something new from the shelf takes it along as it is today', () => {
    const f = plan.factors.findIndex(x => x.key === 'medium');
    const fresh = shelf.mediums.find(m => m.kind === 'heavy gel')!;
    const more = batch([], { what: 'level', factor: f, level: fresh.id });
    expect(more.used?.mediums?.map(m => m.id)).toEqual([fresh.id]);
    const now = planNow(plan, [changed(more)]);
    expect(
      now.patches.some(p =>
        levelNames(now, p)
          .map(x => write(x))
          .includes(fresh.name),
      ),
    ).toBe(true);
    expect(plan.used.mediums.some(m => m.id === fresh.id)).toBe(false);
  });

  it.each([
    ['a level it has already', { what: 'level', factor: 1, level: 4 }, /level already/],
    ['a level out of range', { what: 'level', factor: 1, level: 900 }, /goes from/],
    ['what is not on the shelf', { what: 'level', factor: 0, level: 'whale-oil' }, /not on your shelf/],
    ['a combination that is not in the trial', { what: 'again', combinations: [[9, 9]] }, /not in the trial/],
    ['nothing', { what: 'again', combinations: [] }, /Nothing was chosen/],
  ] as const)('cannot be %s', (_, ask, words) => {
    expect(plan.factors.map(f => f.key)).toEqual(['medium', 'dryHours']);
    expect(why(furtherBatch(plan, [], ask as never, shelf))).toMatch(words);
  });

  it('cannot be a part of a strip or a load', () => {
    const strips = { ...plan, design: { ...plan.design, stripKey: 'medium' as const } };
    expect(why(furtherBatch(strips, [], { what: 'again' }, shelf))).toMatch(/whole strips/);
    const loads = { ...plan, design: { ...plan.design, loadSize: 3 } };
    expect(why(furtherBatch(loads, [], { what: 'again' }, shelf))).toMatch(/whole loads/);
  });

  it('passes the check of a file with its records, and a record about a stranger does not', () => {
    const more = changed(batch());
    const code = more.kind === 'change' && more.change.what === 'batch' ? more.change.patches[0].code : '';
    expect(parseRecord(JSON.parse(JSON.stringify(more))).ok).toBe(true);
    expect(why(checkTrial(plan, [more, step(code, 'mark')], new Set()))).toBe('done');
    // Also when it was taken back: what is recorded stays readable.
    expect(why(checkTrial(plan, [more, step(code, 'mark'), undone(more.id)], new Set()))).toBe('done');
    expect(why(checkTrial(plan, [step(code, 'mark')], new Set()))).toMatch(/does not have/);
    const torn = JSON.parse(JSON.stringify(more));
    torn.change.patches[1].x = torn.change.patches[0].x;
    torn.change.patches[1].y = torn.change.patches[0].y;
    torn.change.patches[1].board = torn.change.patches[0].board;
    expect(why(checkTrial(plan, [torn], new Set()))).toMatch(/does not fit it: .*lie on one another/);
  });
});

describe('fewer patches, and other places', () => {
  const [first, second] = [...plan.patches].sort((a, b) => a.order - b.order);
  const begun = [step(first.code, 'mark'), step(first.code, 'coat')];

  it('are for what nobody has begun: a mark alone is no beginning', () => {
    expect(why(leavingOut(plan, begun, [first.code]))).toMatch(/has been begun/);
    expect(leavingOut(plan, [step(first.code, 'mark')], [first.code]).ok).toBe(true);
    const left = leavingOut(plan, begun, [second.code]);
    expect(left.ok && planNow(plan, [changed(left.value)]).patches.map(p => p.code)).not.toContain(
      second.code,
    );
    expect(
      why(
        leavingOut(
          plan,
          [],
          plan.patches.slice(1).map(p => p.code),
        ),
      ),
    ).toMatch(/At least two/);
  });

  it('are a change of the plan, with what moved in it', () => {
    const swapped = swapPatches(plan, first.code, second.code);
    if (!swapped.ok) throw new Error();
    const moved = moving(plan, swapped.value, []);
    if (!moved.ok) throw new ProblemError(moved.problem);
    expect(planNow(plan, [changed(moved.value)]).patches).toEqual(swapped.value.patches);
    expect(why(moving(plan, swapped.value, begun))).toMatch(new RegExp(`${first.code} has been begun`));
    expect(why(moving(plan, plan, []))).toMatch(/Nothing was moved/);
    expect(movePatch(plan, first.code, { board: 9, x: 0, y: 0 }).ok).toBe(false);
  });
});

describe('a plan asked for again', () => {
  it('is the same plan from the same seed, and edited it keeps its code', () => {
    const request = requestOf(plan);
    const again = planTrial(request, shelf, { createdAt: plan.createdAt, random: () => 0.9 });
    if (!again.ok) throw new ProblemError(again.problem);
    expect(again.value.patches.map(p => [p.levels, p.x, p.y, p.board])).toEqual(
      plan.patches.map(p => [p.levels, p.x, p.y, p.board]),
    );
    expect(again.value.code).not.toBe(plan.code);
    const kept = inPlaceOf(again.value, plan);
    expect(kept.patches.map(p => p.code)).toEqual(plan.patches.map(p => p.code));
    expect([kept.id, kept.createdAt]).toEqual([plan.id, plan.createdAt]);
  });

  it('counts what was planned at first, not what a batch added', () => {
    const more = planNow(plan, [changed(batch())]);
    expect(requestOf(more).budget).toBe(plan.patches.length);
  });
});
