import { describe, expect, it } from 'vitest';
import { picked, whatNext } from '../advice/index.ts';
import { checkTrial } from '../bundle/index.ts';
import { examplePlan } from '../design/example.ts';
import { planTrial } from '../design/index.ts';
import { METHODS } from '../methods/index.ts';
import { ProblemError } from '../outcome/index.ts';
import { doesItLast } from '../questions/index.ts';
import { said } from '../say/testing.ts';
import { agendaOf, forecast, USUAL_WORKING } from '../schedule/index.ts';
import { STARTER_SHELF } from '../shelf/index.ts';
import { goFor, handsOnMin, preparedTogether } from '../steps/index.ts';
import type { TrialPlan, TrialRecord } from '../trial/index.ts';
import { alsoNow, progressOf, skippedOf, waitedFor } from './index.ts';

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
    expect(said(!found.ok && found.problem.say)).toBe(
      'A record is about patch ZZ9, which this trial does not have.',
    );
  });
});

describe('what happens to a piece as a whole', () => {
  const cloth = (() => {
    const method = METHODS.find(m => m.id === 'thick-coat')!;
    const asked = doesItLast(method, STARTER_SHELF, ['wash', 'dry-rub']);
    if (!asked.ok) throw new ProblemError(asked.problem);
    const factors = [{ key: 'medium' as const, levels: ['matte-acrylic', 'soft-gel'] }];
    const made = planTrial({ ...asked.value, factors, repeats: 2 }, STARTER_SHELF, {
      createdAt: new Date(T0).toISOString(),
      random: () => 0.4,
    });
    if (!made.ok) throw new ProblemError(made.problem);
    return made.value;
  })();
  const codes = cloth.patches.map(p => p.code);
  const [first, second] = codes;
  const lineOf = (records: readonly TrialRecord[], code: string) => {
    const progress = progressOf(cloth, records);
    return { progress, line: progress.lines.find(l => l.patch.code === code)! };
  };
  const { chain } = lineOf([], first).line;
  const at = (does: string) => chain.findIndex(l => l.step.does === does);
  const hang = at('hang');
  /** A patch that is done with all before a link of its chain. */
  const upTo = (code: string, end: number): TrialRecord[] =>
    chain.slice(0, end).map(({ step: s, round }, i) => ({
      ...{ id: `${code} ${i}`, at: new Date(T0 + i * 60_000).toISOString(), kind: 'step' as const },
      ...{ patch: code, step: s.id, round },
    }));

  it('is hanging up, curing and the wash of a cloth, but no rub, no pull of tape, and nothing of tiles that stand alone', () => {
    const { line } = lineOf([], first);
    const whole = chain.filter(l => goFor(l.step, line).length > 1).map(l => l.step.id);
    // Its ground is washed and ironed in one go as well.
    expect(whole).toEqual(['prepare', 'hang', 'cure', 'wear-wash']);
    for (const l of chain.filter(l => whole.includes(l.step.id))) expect(goFor(l.step, line)).toEqual(codes);
    const tiles = { ...cloth, board: { ...cloth.board, onePiece: true } };
    const [alone] = progressOf(tiles, []).lines;
    expect(alone.chain.every(l => goFor(l.step, alone).length <= 1)).toBe(true);
  });

  it('waits for the last patch of the piece, and for none that was written off', () => {
    const others = codes.slice(1);
    const done = upTo(first, hang);
    const { progress, line } = lineOf(done, first);
    expect(waitedFor(progress, line, chain[hang])).toEqual(others);
    expect(waitedFor(progress, line, chain[hang - 1])).toEqual([]);
    const spoilt = others.map(
      (patch, i): TrialRecord => ({
        ...{ id: `x${i}`, at: new Date(T0).toISOString(), kind: 'spoilt', patch, why: 'It tore' },
      }),
    );
    const left = lineOf([...done, ...spoilt.slice(1)], first);
    expect(waitedFor(left.progress, left.line, chain[hang])).toEqual([second]);
    const none = lineOf([...done, ...spoilt], first);
    expect(waitedFor(none.progress, none.line, chain[hang])).toEqual([]);
  });

  it('is asked for once, for all of them, when all are as far, and never before', () => {
    const allButOne = codes.slice(1).flatMap(code => upTo(code, hang));
    const ask = (records: TrialRecord[]) =>
      whatNext([{ plan: cloth, records }], USUAL_WORKING, T0 + 200 * 60_000);
    const before = ask([...allButOne, ...upTo(first, at('coat'))]);
    expect(before.action.kind !== 'finished' && before.action.patch.code).toBe(first);
    const ready = ask([...allButOne, ...upTo(first, hang)]);
    if (ready.action.kind !== 'do') throw new Error('it can be hung up');
    expect(ready.action.link.step.id).toBe('hang');
    expect([ready.action.patch.code, ...ready.also].sort()).toEqual([...codes].sort());
    // One press is kept for all.
    const hung = upTo(first, hang + 1).at(-1)!;
    const after = [...allButOne, ...upTo(first, hang), { ...hung, also: codes.slice(1) } as TrialRecord];
    for (const code of codes) expect(lineOf(after, code).line.doneAt[hang]).toBeDefined();
  });

  it('is one action of the day, and its work is that of one', () => {
    const found = agendaOf(cloth, [], USUAL_WORKING, T0);
    if (!found.ok) throw new ProblemError(found.problem);
    const washes = found.value.tasks.filter(t => t.link.step.id === 'wear-wash');
    expect(washes).toHaveLength(codes.length);
    expect(new Set(washes.map(t => `${t.from} ${t.to}`)).size).toBe(1);
    expect((washes[0].to - washes[0].from) / 60_000).toBeCloseTo(5, 6);
    const rubs = found.value.tasks.filter(t => t.link.step.id === 'wear-dry-rub');
    expect(new Set(rubs.map(t => t.from)).size).toBe(codes.length);
    const { line } = lineOf([], first);
    const wash = chain.find(l => l.step.id === 'wear-wash')!.step;
    expect(handsOnMin(wash, line)).toBeCloseTo(5 / codes.length, 9);
  });

  it('does not hold for a finish that is compared: each patch has its own', () => {
    const sealed = examplePlan({ usual: { ...examplePlan().usual, finish: 'spray-clear' } });
    const varied = examplePlan({ factors: [{ key: 'finish', levels: ['clear-wax', 'spray-clear'] }] });
    const finish = (plan: TrialPlan) => {
      const [line] = progressOf(plan, []).lines;
      return goFor(line.chain.find(l => l.step.does === 'finish')!.step, line).length;
    };
    expect(finish(sealed)).toBe(sealed.patches.filter(p => p.board === sealed.patches[0].board).length);
    expect(finish(varied)).toBe(0);
  });

  it('says which patches it waits for when one is chosen by hand', () => {
    const { progress } = lineOf(upTo(first, hang), first);
    const found = picked(progress, first, T0 + 200 * 60_000);
    expect(found.kind === 'others' && [found.link.step.id, found.others]).toEqual(['hang', codes.slice(1)]);
  });
});
