import { describe, expect, it } from 'vitest';
import { checkTrial, parsePlan } from '../bundle/index.ts';
import { ProblemError } from '../outcome/index.ts';
import { write } from '../say/index.ts';
import { STARTER_SHELF } from '../shelf/index.ts';
import {
  carrierOf,
  changesIn,
  planNow,
  settingsOf,
  type TrialPlan,
  type TrialRecord,
  withChange,
} from '../trial/index.ts';
import { inOrderOf } from './batch.ts';
import { mergeTrials, splitTrial } from './merge.ts';
import { planTrial } from './plan.ts';
import type { PlanRequest } from './request.ts';
import { STARTING_REQUEST } from './start.ts';

const identity = { createdAt: '2026-04-01T09:00:00.000Z', random: () => 0.7 };
const plan = (part: Partial<PlanRequest>, id: number, createdAt = '2026-03-01T09:00:00.000Z'): TrialPlan => {
  const made = planTrial({ ...STARTING_REQUEST, name: 'Berth plates', ...part }, STARTER_SHELF, {
    createdAt,
    random: () => id,
  });
  if (!made.ok) throw new ProblemError(made.problem);
  return made.value;
};
const older = plan(
  {
    factors: [
      { key: 'medium', levels: ['matte-acrylic', 'soft-gel'] },
      { key: 'dryHours', levels: [20, 6] },
    ],
    repeats: 2,
  },
  0.2,
);
/** Another level of the first factor, another usual coat, controls, a board and an air of its own. */
const younger = plan(
  {
    factors: [
      { key: 'medium', levels: ['soft-gel', 'white-pva'] },
      { key: 'rounds', levels: [1, 3] },
    ],
    usual: { ...STARTING_REQUEST.usual, coatMm: 0.8 },
    control: true,
    air: { tempC: 11, rh: 80 },
    board: { w: 190, h: 190, outline: 'ellipse', onePiece: false },
    tags: undefined,
  } as Partial<PlanRequest>,
  0.6,
  '2026-03-09T09:00:00.000Z',
);
const done = (of: TrialPlan, at = of.createdAt): TrialRecord[] =>
  of.patches.map((p, i) => ({
    id: `${of.code}-${i}`,
    at,
    patch: p.code,
    kind: 'step',
    step: of.used.method.steps[0].id,
    round: 1,
    also: of.patches.map(x => x.code),
  }));

const merged = mergeTrials(
  { plan: younger, records: done(younger) },
  { plan: older, records: done(older) },
  identity,
);
if (!merged.ok) throw new ProblemError(merged.problem);
const { plan: both, records } = merged.value;

describe('two trials as one', () => {
  it('leaves every patch its code and everything it was made with', () => {
    for (const from of [older, younger])
      for (const patch of from.patches) {
        const now = both.patches.find(p => p.code === patch.code)!;
        const [before, after] = [settingsOf(from, patch), settingsOf(both, now)];
        expect({ ...after }).toEqual({ ...before });
        expect([now.x, now.y]).toEqual([patch.x, patch.y]);
        const [was, is] = [carrierOf(from, patch.board), carrierOf(both, now.board)];
        expect([is.w, is.h, is.outline]).toEqual([was.w, was.h, was.outline]);
      }
    expect(both.patches).toHaveLength(older.patches.length + younger.patches.length);
  });

  it('makes a factor of all that differs between them, numbers in rising order', () => {
    expect(both.factors.map(f => f.key).sort()).toEqual(['coatMm', 'dryHours', 'medium', 'rounds']);
    const levels = (key: string) => both.factors.find(f => f.key === key)?.levels;
    expect(levels('medium')).toHaveLength(3);
    const usual = STARTING_REQUEST.usual;
    // What was usual in the younger is a level now.
    expect(levels('dryHours')).toEqual([6, usual.dryHours, 20]);
    expect(levels('rounds')).toEqual([...new Set([1, usual.rounds, 3])].sort());
    expect(levels('coatMm')).toEqual([usual.coatMm, 0.8].sort());
    expect(both.design.control).toBe(false);
    expect(both.patches.every(p => p.levels.length === both.factors.length)).toBe(true);
  });

  it('puts the younger behind the older as a batch, on its own boards, in its own order', () => {
    const of = (from: TrialPlan) => both.patches.filter(p => from.patches.some(x => x.code === p.code));
    expect(of(older).every(p => !p.batch)).toBe(true);
    expect(of(younger).every(p => p.batch === 1)).toBe(true);
    expect(Math.min(...of(younger).map(p => p.order))).toBeGreaterThan(
      Math.max(...of(older).map(p => p.order)),
    );
    const boards = (from: TrialPlan) => new Set(of(from).map(p => p.board));
    for (const b of boards(older)) expect(boards(younger).has(b)).toBe(false);
    expect(new Set(both.patches.map(p => p.order)).size).toBe(both.patches.length);
  });

  it('holds together as a stored trial with all records, and notes the other air', () => {
    expect(parsePlan(JSON.parse(JSON.stringify(both))).ok).toBe(true);
    const whole = checkTrial(both, records, new Set());
    expect(write(whole.ok ? '' : whole.problem.say)).toBe('');
    expect(records.filter(r => r.kind === 'step')).toHaveLength(both.patches.length);
    expect(records.find(r => r.kind === 'air')).toMatchObject({ at: younger.createdAt, air: younger.air });
  });

  it('takes changes as made, and of patches that were left out nothing', () => {
    const gone = older.patches[0].code;
    const change: TrialRecord = {
      id: 'left',
      at: older.createdAt,
      patch: null,
      kind: 'change',
      change: { what: 'drop', patches: [gone] },
    };
    const again = mergeTrials(
      { plan: older, records: [...done(older), change] },
      { plan: younger, records: [] },
      identity,
    );
    const made = again.ok ? again.value : undefined;
    expect(made?.plan.patches.some(p => p.code === gone)).toBe(false);
    expect(changesIn(made?.records ?? [])).toEqual([]);
    const about = made?.records.flatMap(r => [r.patch ?? [], r.kind === 'step' ? (r.also ?? []) : []].flat());
    expect(about).not.toContain(gone);
    expect(about?.length).toBeGreaterThan(20);
    expect(checkTrial(made!.plan, made!.records, new Set()).ok).toBe(true);
  });

  it('keeps boards that are alike as boards, and the pieces of both in front', () => {
    const lid = { name: 'Lid', w: 130, h: 130, outline: 'ellipse' as const };
    const [a, b] = [plan({ pieces: [lid] }, 0.3), plan({ pieces: [{ ...lid, w: 140 }] }, 0.8)];
    const made = mergeTrials({ plan: a, records: [] }, { plan: b, records: [] }, identity);
    // Nothing but chance differs between them: the question is the same.
    if (!made.ok) throw new ProblemError(made.problem);
    expect(made.value.plan.pieces?.map(p => p.w)).toEqual([130, 140]);
    for (const from of [a, b])
      for (const patch of from.patches) {
        const now = made.value.plan.patches.find(p => p.code === patch.code)!;
        expect(carrierOf(made.value.plan, now.board).w).toBe(carrierOf(from, patch.board).w);
      }
    expect(new Set(made.value.plan.patches.map(p => p.batch))).toEqual(new Set([undefined, 1]));
    expect(parsePlan(JSON.parse(JSON.stringify(made.value.plan))).ok).toBe(true);
    const repeats = made.value.plan.patches.map(p => `${p.levels} ${p.repeat}`);
    expect(new Set(repeats).size).toBe(repeats.length);
  });

  const say = (a: TrialPlan, b: TrialPlan) => {
    const made = mergeTrials({ plan: a, records: [] }, { plan: b, records: [] }, identity);
    return made.ok ? '' : made.problem.say;
  };
  it('says why two cannot be one', () => {
    expect(write(say(older, older))).toMatch(/with itself/);
    expect(write(say(older, { ...younger, patchMm: 30 }))).toMatch(/not of one size/);
    expect(write(say(older, { ...younger, patchTallMm: 50 }))).toMatch(/not of one size/);
    expect(write(say(older, { ...younger, wear: ['tape'] }))).toMatch(/worn in different ways/);
    expect(write(say(older, { ...younger, board: { ...younger.board, onePiece: true } }))).toMatch(
      /single pieces/,
    );
    expect(write(say(older, { ...younger, design: { ...younger.design, loadSize: 4 } }))).toMatch(
      /strips or loads/,
    );
    expect(write(say(older, { ...younger, patches: older.patches }))).toMatch(/same pencil mark/);
    const other = { ...younger.used.method, steps: younger.used.method.steps.slice(1) };
    expect(write(say(older, { ...younger, used: { ...younger.used, method: other } }))).toMatch(
      /same method/,
    );
    const hours = (from: number) => [0, 1, 2, 3, 4].map(i => from + i);
    const many = (from: number, id: number) =>
      plan({ factors: [{ key: 'dryHours', levels: hours(from) }], repeats: 1 }, id);
    expect(write(say(many(4, 0.1), many(20, 0.4)))).toMatch(/10 levels of drying time|10 levels of/);
    const full = (id: number, seed: number) =>
      plan({ factors: [{ key: 'dryHours', levels: hours(4) }], repeats: 10, seed, patchMm: 20 }, id);
    const [a, b] = [full(0.1, 1), full(0.4, 2)];
    const times = (of: TrialPlan, n: number): TrialPlan => ({
      ...of,
      patches: Array.from({ length: n }, (_, i) => ({
        ...of.patches[i % 50],
        code: `${of.code}-${i}`,
        order: i,
      })),
    });
    expect(write(say(times(a, 201), times(b, 200)))).toMatch(/401 patches; 400 is the most/);
  });
});

describe('a part of a trial as one of its own', () => {
  const first = older.patches.filter(p => p.levels[0] === 0).map(p => p.code);
  const split = splitTrial({ plan: older, records: done(older) }, first, identity);
  if (!split.ok) throw new ProblemError(split.problem);

  it('goes with its codes, places and records; what stays is without it until it is taken back', () => {
    const { plan: part, records: of } = split.value;
    expect(part.patches.map(p => p.code).sort()).toEqual([...first].sort());
    expect(part.patches.map(p => p.order).sort((a, b) => a - b)).toEqual(first.map((_, i) => i));
    for (const p of part.patches)
      expect(settingsOf(part, p)).toEqual(settingsOf(older, older.patches.find(x => x.code === p.code)!));
    expect(of).toHaveLength(first.length);
    expect(checkTrial(part, of, new Set()).ok).toBe(true);
    const change: TrialRecord = {
      id: 's',
      at: older.createdAt,
      patch: null,
      kind: 'change',
      change: { what: 'split', patches: first, into: part.id },
    };
    const left = planNow(older, [...done(older), change]);
    expect(left.patches).toHaveLength(older.patches.length - first.length);
    expect(left.patches.some(p => first.includes(p.code))).toBe(false);
    expect(checkTrial(older, [...done(older), change], new Set()).ok).toBe(true);
    const undo: TrialRecord = { id: 'u', at: older.createdAt, patch: null, kind: 'undo', of: 's' };
    expect(planNow(older, [change, undo]).patches).toHaveLength(older.patches.length);
  });

  it('keeps the relative order of work', () => {
    const before = older.patches.filter(p => first.includes(p.code)).sort((a, b) => a.order - b.order);
    const after = [...split.value.plan.patches].sort((a, b) => a.order - b.order);
    expect(after.map(p => p.code)).toEqual(before.map(p => p.code));
  });

  it('leaves at least two on either side', () => {
    const all = older.patches.map(p => p.code);
    for (const codes of [all.slice(0, 1), all.slice(1), all])
      expect(splitTrial({ plan: older, records: [] }, codes, identity).ok).toBe(false);
    expect(splitTrial({ plan: older, records: [] }, all.slice(2), identity).ok).toBe(true);
  });
});

describe('another order of work', () => {
  const inOrder = (of: TrialPlan) => [...of.patches].sort((a, b) => a.order - b.order).map(p => p.code);
  const codes = inOrder(older);

  it('puts what is wanted first and leaves the rest as it was', () => {
    const found = inOrderOf(older, [], [codes[5], codes[3]]);
    if (!found.ok) throw new ProblemError(found.problem);
    const next = withChange(older, found.value);
    expect(inOrder(next)).toEqual([codes[5], codes[3], ...codes.filter((_, i) => i !== 5 && i !== 3)]);
    expect(next.patches.map(p => p.order).sort()).toEqual(older.patches.map(p => p.order).sort());
  });

  it('leaves what has been begun where it is', () => {
    const steps = older.used.method.steps.filter(s => s.does === 'mark' || s.does === 'coat');
    const begun = (code: string): TrialRecord[] =>
      steps.map((s, i) => ({
        id: `b${i}`,
        at: `2026-03-01T10:0${i}:00.000Z`,
        patch: code,
        kind: 'step',
        step: s.id,
        round: 1,
      }));
    const records = begun(codes[0]);
    const late = inOrderOf(older, records, [codes[0]]);
    expect(write(late.ok ? '' : late.problem.say)).toContain(`${codes[0]} has been begun`);
    const found = inOrderOf(older, records, [codes[4]]);
    if (!found.ok) throw new ProblemError(found.problem);
    const next = withChange(older, found.value);
    expect(inOrder(next).slice(0, 3)).toEqual([codes[0], codes[4], codes[1]]);
  });

  it('says where nothing would change, and where the order is dealt', () => {
    expect(inOrderOf(older, [], [codes[0]]).ok).toBe(false);
    const grouped = { ...older, design: { ...older.design, groupKey: 'medium' as const } };
    const found = inOrderOf(grouped, [], [codes[4]]);
    expect(found.ok ? '' : found.problem.code).toBe('whole-plots');
  });
});
