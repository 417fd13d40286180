import * as v from 'valibot';
import { describe, expect, it } from 'vitest';
import { examplePlan } from '../design/example.ts';
import { readingFor } from './example.ts';
import {
  about,
  airOf,
  chosenOf,
  isItemFactor,
  isSpoilt,
  lastUndoable,
  levelMarks,
  levelNames,
  lookUp,
  migrate,
  ReadingMaps,
  readingOf,
  recordWords,
  remembering,
  settingsOf,
  standing,
  TrialRecord,
  undoWords,
  verdictOf,
} from './index.ts';

const plan = examplePlan();
const [a, b] = plan.patches.map(p => p.code);
const at = (minute: number) => new Date(Date.parse('2026-05-02T09:00:00Z') + minute * 60_000).toISOString();
const step = (id: string, patch: string, minute: number, name = 'mark'): TrialRecord => ({
  id,
  at: at(minute),
  kind: 'step',
  patch,
  step: name,
  round: 1,
});
const undo = (id: string, of: string, minute: number): TrialRecord => ({
  id,
  at: at(minute),
  kind: 'undo',
  patch: null,
  of,
});
const spoilt = (id: string, patch: string, minute: number): TrialRecord => ({
  id,
  at: at(minute),
  kind: 'spoilt',
  patch,
  why: 'It tore',
});
const verdict = (id: string, patch: string, minute: number, grade: number): TrialRecord => ({
  id,
  at: at(minute),
  kind: 'verdict',
  patch,
  verdict: 'fix',
  grade,
  symptoms: [],
});

describe('what is worked out of records', () => {
  it('is the same object until something is recorded, or something else stands beside them', () => {
    let worked = 0;
    const counted = remembering((all, beside: { n: number }) => ({ n: all.length + beside.n, k: worked++ }));
    const records = [step('a', a, 1)];
    const [one, ten] = [{ n: 1 }, { n: 10 }];
    const first = counted(records, one);
    expect(counted(records, one)).toBe(first);
    records.push(step('b', a, 2));
    expect(counted(records, one)).toEqual({ n: 3, k: 1 });
    expect(counted(records, ten)).toEqual({ n: 12, k: 2 });
    expect(counted([...records], ten)).toEqual({ n: 12, k: 3 });
    expect(counted(records, ten).k).toBe(2);
  });
});

describe('records that stand', () => {
  it('are in order of time, those of one moment by their names, without the undone and the undos', () => {
    const all = [step('c', a, 2), step('b', a, 1), step('z', b, 1), undo('u', 'c', 3)];
    expect(standing(all).map(r => r.id)).toEqual(['b', 'z']);
    expect(all.map(r => r.id)).toEqual(['c', 'b', 'z', 'u']);
    // An undo takes back what it names and nothing else.
    expect(standing([step('c', a, 2), undo('u', 'other', 3)]).map(r => r.id)).toEqual(['c']);
  });

  it('of one kind about one patch are those and no others', () => {
    const all = [step('b', a, 1), step('z', b, 1), spoilt('s', a, 2)];
    expect(about(all, a, 'step').map(r => r.id)).toEqual(['b']);
    expect(about(all, a, 'spoilt').map(r => r.id)).toEqual(['s']);
    expect(about(all, b, 'spoilt')).toEqual([]);
  });

  it('say that a patch is written off until that is taken back', () => {
    expect(isSpoilt([], a)).toBe(false);
    expect(isSpoilt([spoilt('s', a, 1)], a)).toBe(true);
    expect(isSpoilt([spoilt('s', a, 1)], b)).toBe(false);
    expect(isSpoilt([spoilt('s', a, 1), undo('u', 's', 2)], a)).toBe(false);
  });

  it('are undone from the last that can be, which no air, photo or verdict is', () => {
    const air: TrialRecord = { id: 'air', at: at(9), kind: 'air', patch: null, air: { tempC: 20, rh: 50 } };
    expect(lastUndoable([air])).toBeUndefined();
    expect(lastUndoable([step('b', a, 1), spoilt('s', a, 2), air])?.id).toBe('s');
    expect(lastUndoable([step('b', a, 1), spoilt('s', a, 2), undo('u', 's', 3), air])?.id).toBe('b');
    expect(undoWords(spoilt('s', a, 2))).toBe('spoilt');
    expect(undoWords({ ...step('b', a, 1), also: [b] } as TrialRecord)).toBe('and 1 more mark');
    expect(recordWords(step('b', a, 1))).toBe('mark round 1');
  });

  it('give the air that was noted last, else the plan’s', () => {
    const noted = (id: string, minute: number, rh: number): TrialRecord => ({
      id,
      at: at(minute),
      kind: 'air',
      patch: null,
      air: { tempC: 20, rh },
    });
    expect(airOf(plan, [step('b', a, 1)])).toBe(plan.air);
    expect(airOf(plan, [noted('y', 5, 70), noted('x', 2, 40)]).rh).toBe(70);
  });
});

describe('the reading and the verdict that count', () => {
  it('are the last from a dry photo, else the last of all, and only of that patch', () => {
    const dry = readingFor(a, 1, { landed: 70 });
    const later = readingFor(a, 2, { landed: 80 });
    const wet = readingFor(a, 3, { landed: 60 }, 'wet');
    const landed = (records: readonly TrialRecord[], patch = a) =>
      readingOf(records, patch)?.reading.reading.landed;
    expect(landed([])).toBeUndefined();
    expect(landed(wet)).toBe(60);
    expect(landed([...dry, ...later, ...wet])).toBe(80);
    expect(readingOf([...dry, ...later, ...wet], a)?.photo.photo).toBe('p2');
    expect(landed([...dry, ...later], b)).toBeUndefined();
    // A reading whose photo was taken back counts no more.
    expect(landed([...dry, ...later, undo('u', 'ph2', 9999)])).toBe(70);
    expect(landed([dry[1]])).toBeUndefined();
  });

  it('is the last that was given', () => {
    expect(verdictOf([verdict('v2', a, 5, 4), verdict('v1', a, 2, 1)], a)?.grade).toBe(4);
    expect(verdictOf([verdict('v1', a, 2, 1)], b)).toBeUndefined();
  });
});

describe('settings of a patch', () => {
  it('are the usual ones, replaced by its levels; a control keeps them all', () => {
    const [i, j] = [0, 1];
    const chosen = chosenOf(plan, [j, j]);
    expect([chosen.medium, chosen.dryHours]).toEqual([plan.factors[0].levels[j], plan.factors[1].levels[j]]);
    expect(chosenOf(plan, [])).toEqual({ ...plan.usual, method: plan.method });
    expect(chosenOf(plan, [i]).dryHours).toBe(plan.usual.dryHours);
    expect(settingsOf(plan, { levels: [j, j] }).medium.id).toBe(plan.factors[0].levels[j]);
    expect(levelNames(plan, { levels: [] })).toEqual(['Your usual way']);
    expect(levelMarks(plan, { levels: [], order: 2 })).toEqual(['usual']);
    const real = { ...plan, real: { recipe: 'R1' } };
    expect(levelNames(real, { levels: [] })).toEqual(['By the recipe']);
    expect(levelMarks(real, { levels: [], order: 2 })).toEqual(['3']);
    expect(levelMarks(plan, { order: 0, levels: [1, 0] })).toEqual(['A2', 'B1']);
  });

  it('name what the plan does not hold', () => {
    expect(() => lookUp(plan.used, { ...plan.usual, medium: 'gone' })).toThrow(/does not hold the item gone/);
    expect(
      lookUp(plan.used, { ...plan.usual, pressing: '', rubTool: '', finish: '' }).finish,
    ).toBeUndefined();
  });

  it('are shelf items for some factors and numbers or choices for others', () => {
    expect(['medium', 'pressing', 'dryHours', 'water'].map(k => isItemFactor(k as 'medium'))).toEqual([
      true,
      true,
      false,
      false,
    ]);
  });
});

describe('times and maps of records', () => {
  const timed = (when: string) => v.is(TrialRecord, { ...step('b', a, 1), at: when });
  it('are of this century, to the moment it ends', () => {
    expect(timed('2000-01-01T00:00:00.000Z')).toBe(true);
    expect(timed('1999-12-31T23:59:59.999Z')).toBe(false);
    expect(timed('2099-12-31T23:59:59.999Z')).toBe(true);
    expect(timed('2100-01-01T00:00:00.000Z')).toBe(false);
    expect(timed('2026-05-02')).toBe(false);
  });

  it('are base64 of exactly their size', () => {
    const map = { w: 3, h: 2, pxPerMm: 1, data: 'AAECAwQF' };
    const fits = (state: object) => v.is(ReadingMaps, { state, veil: map });
    expect(fits(map)).toBe(true);
    for (const wrong of [
      { w: 4 },
      { h: 0 },
      { data: 'AAECAwQ!' },
      { data: '!AECAwQF' },
      { data: 'AAECAwQ' },
      { pxPerMm: 0 },
    ])
      expect(fits({ ...map, ...wrong }), JSON.stringify(wrong)).toBe(false);
  });
});

describe('data of another version', () => {
  const code = (data: unknown) => {
    const result = migrate(data);
    return result.ok ? 'ok' : result.problem.code;
  };
  it('is known by its number, or refused with the reason', () => {
    expect(code(null)).toBe('not-an-object');
    expect(code([])).toBe('not-an-object');
    expect(code('3')).toBe('not-an-object');
    for (const schema of [undefined, 'two', 1.5, -1])
      expect(code({ schema }), String(schema)).toBe('no-version');
    expect(code({ schema: 0 })).toBe('no-path');
    expect(code({ schema: 4 })).toBe('newer');
    expect(code({ schema: 3 })).toBe('ok');
  });

  it('goes up one step after another', () => {
    const steps = { 1: (d: object) => ({ ...d, a: 1 }), 2: (d: object) => ({ ...d, b: 2 }) };
    expect(migrate({ schema: 1 }, steps, 3)).toEqual({ ok: true, value: { schema: 3, a: 1, b: 2 } });
    expect(migrate({ schema: 2 }, steps, 3)).toEqual({ ok: true, value: { schema: 3, b: 2 } });
  });

  it('of version 1 gets kinds for its preparations, by what it called them', () => {
    const kinds = (ids: string[]) => {
      const up = migrate({ schema: 1, used: { preparations: ids.map(id => ({ id })) } });
      return up.ok && (up.value.used as { preparations: { kind: string }[] }).preparations.map(p => p.kind);
    };
    expect(kinds(['none', 'sanded', 'white-coat', 'gesso'])).toEqual([
      'none',
      'sand',
      'white base coat',
      'primer',
    ]);
    expect(migrate({ schema: 1 }).ok).toBe(true);
  });
});
