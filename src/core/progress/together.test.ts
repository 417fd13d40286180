import { describe, expect, it } from 'vitest';
import { whatNext } from '../advice/index.ts';
import { checkTrial } from '../bundle/index.ts';
import { examplePlan } from '../design/example.ts';
import { forecast, USUAL_WORKING } from '../schedule/index.ts';
import { handsOnMin, preparedTogether } from '../steps/index.ts';
import type { TrialPlan, TrialRecord } from '../trial/index.ts';
import { alsoNow, progressOf, skippedOf } from './index.ts';

const T0 = Date.parse('2026-05-02T09:00:00.000Z');
const PRIMED = { ...examplePlan().usual, preparation: 'gesso' };
const strips = examplePlan({
  design: 'strips',
  stripKey: 'preparation',
  factors: [
    { key: 'preparation', levels: ['gesso', 'white-coat'] },
    { key: 'medium', levels: ['matte-acrylic', 'soft-gel'] },
  ],
  repeats: 2,
  board: { w: 420, h: 420, outline: 'rectangle', onePiece: false },
});
let count = 0;
const step = (patch: string, id: string, also?: string[]): TrialRecord => ({
  id: `t${++count}`,
  at: new Date(T0 + count * 60_000).toISOString(),
  kind: 'step',
  patch,
  step: id,
  round: 1,
  ...(also ? { also } : {}),
});
const marked = (plan: TrialPlan) => plan.patches.map(p => step(p.code, 'mark'));
const prepare = (plan: TrialPlan) => {
  const link = progressOf(plan, []).lines[0].chain.find(l => l.step.id === 'prepare');
  if (!link) throw new Error('nothing is prepared');
  return link;
};

describe('a ground that is prepared in one go', () => {
  it('is a whole strip of a board in a plan of strips, and never two strips', () => {
    const goes = preparedTogether(strips);
    for (const p of strips.patches) {
      const own = strips.patches.filter(o => goes.get(p.code)?.includes(o.code));
      expect(own.length).toBeGreaterThan(1);
      for (const o of own) {
        expect([o.board, o.strip]).toEqual([p.board, p.strip]);
        expect(o.levels[0]).toBe(p.levels[0]);
      }
      expect(own).toHaveLength(strips.patches.filter(o => o.board === p.board && o.strip === p.strip).length);
    }
  });

  it('is a whole board where all of it gets the same', () => {
    const plan = examplePlan({ usual: PRIMED });
    const goes = preparedTogether(plan);
    for (const p of plan.patches)
      expect(goes.get(p.code)).toEqual(plan.patches.filter(o => o.board === p.board).map(o => o.code));
  });

  it('is each place alone where the preparation is varied from place to place, and each single piece', () => {
    const varied = examplePlan({
      factors: [
        { key: 'preparation', levels: ['gesso', 'white-coat'] },
        { key: 'medium', levels: ['matte-acrylic', 'soft-gel'] },
      ],
    });
    const pieces = examplePlan({
      usual: PRIMED,
      board: { w: 60, h: 60, outline: 'rectangle', onePiece: true },
      marginMm: 5,
    });
    for (const plan of [varied, pieces])
      for (const [code, go] of preparedTogether(plan)) expect(go).toEqual([code]);
  });

  it('takes a quarter of the first place for each further one, shared among them', () => {
    const plan = examplePlan({ usual: PRIMED });
    const { lines } = progressOf(plan, []);
    const { step: what } = prepare(plan);
    const first = lines.filter(l => l.patch.board === 0);
    const all = first.reduce((sum, line) => sum + handsOnMin(what, line), 0);
    const { minutes } = first[0].settings.preparation;
    expect(minutes).toBeGreaterThan(0);
    expect(all).toBeCloseTo(minutes * (1 + 0.25 * (first.length - 1)), 9);
    const coat = lines[0].chain.find(l => l.step.id === 'coat')!.step;
    expect(handsOnMin(coat, lines[0])).toBe(coat.handsOnMin);
  });

  it('is one press at the bench, one record, and undone as one', () => {
    const records = marked(strips);
    const bench = whatNext([{ plan: strips, records }], USUAL_WORKING, T0 + 3_600_000);
    if (bench.action.kind !== 'do') throw new Error('nothing to do');
    expect(bench.action.link.step.id).toBe('prepare');
    expect([bench.action.patch.code, ...bench.also].sort()).toEqual(
      [...preparedTogether(strips).get(bench.action.patch.code)!].sort(),
    );
    // What comes after it is something else.
    for (const t of bench.next) expect(bench.also).not.toContain(t.patch);
    const press = step(bench.action.patch.code, 'prepare', [...bench.also]);
    const done = progressOf(strips, [...records, press]);
    for (const code of [press.patch, ...bench.also]) {
      const line = done.lines.find(l => l.patch.code === code)!;
      expect(line.doneAt[line.chain.findIndex(l => l.step.id === 'prepare')]).toBe(Date.parse(press.at));
    }
    const undo: TrialRecord = { id: 'u1', at: press.at, kind: 'undo', patch: press.patch, of: press.id };
    expect(progressOf(strips, [...records, press, undo]).lines).toEqual(progressOf(strips, records).lines);
  });

  it('leaves out what is written off, not marked yet, or prepared already', () => {
    const plan = examplePlan({ usual: PRIMED });
    const [a, b, c, d, ...rest] = plan.patches.filter(p => p.board === 0).map(p => p.code);
    const spoilt: TrialRecord = {
      id: 's1',
      at: new Date(T0).toISOString(),
      kind: 'spoilt',
      patch: b,
      why: 'torn',
    };
    const records = [...[a, b, c, ...rest].map(p => step(p, 'mark')), spoilt, step(c, 'prepare')];
    expect(alsoNow(progressOf(plan, records), a, prepare(plan)).sort()).toEqual([...rest].sort());
    expect(rest).not.toContain(d);
    expect(alsoNow(progressOf(plan, records), 'nobody', prepare(plan))).toEqual([]);
  });

  it('makes the work of a primed board shorter than that of as many primed pieces', () => {
    const board = examplePlan({ usual: PRIMED });
    const pieces = examplePlan({
      usual: PRIMED,
      board: { w: 60, h: 60, outline: 'rectangle', onePiece: true },
      marginMm: 5,
    });
    const saved = forecast(pieces, [], T0).handsOnMin - forecast(board, [], T0).handsOnMin;
    const boards = board.board.count;
    const { minutes: each } = progressOf(board, []).lines[0].settings.preparation;
    expect(saved).toBeCloseTo(0.75 * each * (board.patches.length - boards), 6);
  });

  it('that is left out on purpose is left out for all of it', () => {
    const plan = examplePlan({ usual: PRIMED });
    const [a, b] = plan.patches.map(p => p.code);
    const record = { ...step(a, 'prepare', [b]), skipped: true } as TrialRecord;
    expect(skippedOf([record])).toEqual([
      { patch: a, step: 'prepare', round: 1 },
      { patch: b, step: 'prepare', round: 1 },
    ]);
  });

  it('is refused in a file where it names a patch that is not in the trial', () => {
    const plan = examplePlan({ usual: PRIMED });
    const found = checkTrial(plan, [step(plan.patches[0].code, 'prepare', ['ZZ9'])], new Set());
    expect(!found.ok && found.problem.say).toBe(
      'A record is about patch ZZ9, which this trial does not have.',
    );
  });
});
