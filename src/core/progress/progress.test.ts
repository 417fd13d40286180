import { describe, expect, it } from 'vitest';
import { examplePlan } from '../design/example.ts';
import { forecast, nextAction } from '../schedule/index.ts';
import { chainOf, openMinutes } from '../steps/index.ts';
import type { TrialRecord } from '../trial/index.ts';
import { settingsOf } from '../trial/index.ts';
import { dryingFactor } from '../units/index.ts';
import { deviationsOf, patchStatus, progressOf } from './index.ts';

const plan = examplePlan();
const T0 = Date.parse('2026-05-02T09:00:00.000Z');
const MIN = 60_000;
const HOUR = 60 * MIN;
let count = 0;
const step = (patch: string, id: string, at: number, round = 1): TrialRecord => ({
  id: `r${++count}`,
  at: new Date(at).toISOString(),
  kind: 'step',
  patch,
  step: id,
  round,
});
const first = plan.patches.find(p => p.order === 0)!;
const second = plan.patches.find(p => p.order === 1)!;
const marked = plan.patches.map(p => step(p.code, 'mark', T0));

describe('when a step was begun', () => {
  const coat = (part: object): TrialRecord =>
    ({
      ...step(first.code, 'coat', T0 + 5 * MIN),
      begun: new Date(T0 + MIN).toISOString(),
      ...part,
    }) as never;
  const begun = (...records: TrialRecord[]) => {
    const line = progressOf(plan, [...marked, ...records]).lines.find(l => l.patch.code === first.code)!;
    return line.begunAt[line.chain.findIndex(l => l.step.id === 'coat')];
  };
  it('is known of one that was done by itself, and of none that was done for several or left out', () => {
    expect(begun(coat({}))).toBe(T0 + MIN);
    expect(begun(coat({ also: [second.code] }))).toBeUndefined();
    expect(begun(coat({ skipped: true }))).toBeUndefined();
    // What was told of anew is what counts.
    expect(
      begun(coat({}), coat({ id: 'again', at: new Date(T0 + 6 * MIN).toISOString(), begun: undefined })),
    ).toBe(undefined);
  });
});

describe('the planned wait', () => {
  const one = plan.patches[0].code;
  const placed = [step(one, 'mark', T0), step(one, 'coat', T0), step(one, 'place', T0)];
  const damp = { tempC: 15, rh: 75 };
  const noted = (air: { tempC: number; rh: number }): TrialRecord => ({
    id: `a${++count}`,
    at: new Date(T0 - MIN).toISOString(),
    kind: 'air',
    patch: null,
    air,
  });
  const aim = (of: typeof plan, air = of.air) => {
    const progress = progressOf(of, [noted(air), ...placed]);
    const line = progress.lines.find(l => l.patch.code === one)!;
    return (patchStatus(line, progress.airs, T0).window!.aim - T0) / MIN;
  };

  it('follows the air where it is the same for all: longer in damp, as planned in the plan’s own air', () => {
    const same = {
      ...plan,
      factors: [plan.factors[0]],
      patches: plan.patches.map(p => ({ ...p, levels: [p.levels[0]] })),
    };
    const planned = settingsOf(same, same.patches[0]).dryHours * 60;
    expect(aim(same)).toBeCloseTo(planned, 6);
    expect(aim(same, damp) / planned).toBeCloseTo(dryingFactor(damp) / dryingFactor(same.air), 6);
    // A plan that was made for damp air has the wait of that air.
    const inDamp = { ...same, air: damp };
    expect(aim(inDamp)).toBeCloseTo(planned, 6);
    expect(aim(inDamp, same.air) / planned).toBeCloseTo(dryingFactor(same.air) / dryingFactor(damp), 6);
  });

  it('dries each hour by its own air, and stays judged by the air that was', () => {
    const same = {
      ...plan,
      factors: [plan.factors[0]],
      patches: plan.patches.map(p => ({ ...p, levels: [p.levels[0]] })),
    };
    const slow = { tempC: 21, rh: 72.5 };
    const quick = { tempC: 21, rh: 45 };
    const later = (at: number, air: typeof slow): TrialRecord => ({
      ...noted(air),
      id: `l${++count}`,
      at: new Date(at).toISOString(),
    });
    const window = (records: readonly TrialRecord[], now: number) => {
      const progress = progressOf(same, [noted(quick), ...placed, ...records]);
      return patchStatus(progress.lines.find(l => l.patch.code === one)!, progress.airs, now).window!;
    };
    const before = window([], T0);
    const half = T0 + (before.aim - T0) / 2;
    const turned = window([later(half, slow)], half);
    // What is left takes twice as long from the moment it turned damp.
    expect(turned.aim - half).toBeCloseTo(2 * (before.aim - half), 0);
    // Asked about a moment before that, nothing of it was known.
    expect(window([later(half, slow)], half - 1)).toEqual(before);
    // Noted after the best moment it changes that no more.
    expect(window([later(before.aim + 1, slow)], before.aim + HOUR).aim).toBe(before.aim);
    const wet = step(one, 'wet', before.aim + MIN);
    const far = later(before.aim + 20 * HOUR, slow);
    expect(deviationsOf(same, [noted(quick), ...placed, wet, far])).toEqual([]);
  });

  it('is kept as it is where waits are what is compared', () => {
    expect(aim(plan, damp)).toBeCloseTo(aim(plan), 6);
  });
});

describe('what needs hands next', () => {
  it('is marking every patch, before anything is coated', () => {
    const action = nextAction(progressOf(plan, marked.slice(0, 11)), T0 + MIN);
    expect(action.kind === 'do' && action.link.step.id).toBe('mark');
    const then = nextAction(progressOf(plan, marked), T0 + MIN);
    expect(then.kind === 'do' && [then.link.step.id, then.patch.code]).toEqual(['coat', first.code]);
  });

  it('is placing a coated patch before the next is coated, since a coat skins over', () => {
    const action = nextAction(progressOf(plan, [...marked, step(first.code, 'coat', T0 + MIN)]), T0 + MIN);
    expect(action.kind === 'do' && [action.link.step.id, action.patch.code]).toEqual(['place', first.code]);
  });

  it('is the next patch while the first dries, and a wait when all dry', () => {
    const records = [...marked, step(first.code, 'coat', T0), step(first.code, 'place', T0 + MIN)];
    const action = nextAction(progressOf(plan, records), T0 + 2 * MIN);
    expect(action.kind === 'do' && action.patch.code).toBe(second.code);
    const all = plan.patches.flatMap(p => [step(p.code, 'coat', T0), step(p.code, 'place', T0 + MIN)]);
    const wait = nextAction(progressOf(plan, [...marked, ...all]), T0 + 5 * MIN);
    expect(wait.kind).toBe('wait');
    if (wait.kind === 'wait') expect(wait.until).toBe(T0 + MIN + 4 * 60 * MIN);
  });

  it('leaves spoilt patches alone and ends when every other one is done', () => {
    const done = plan.patches
      .filter(p => p !== first)
      .flatMap(p => chainOf(plan, p).map(l => step(p.code, l.step.id, T0, l.round)));
    expect(nextAction(progressOf(plan, done), T0).kind).toBe('do');
    const spoilt: TrialRecord = {
      id: 'x',
      at: new Date(T0).toISOString(),
      kind: 'spoilt',
      patch: first.code,
      why: 'dropped',
    };
    expect(nextAction(progressOf(plan, [...done, spoilt]), T0).kind).toBe('finished');
  });
});

describe('a patch', () => {
  const placed = [...marked, step(first.code, 'coat', T0), step(first.code, 'place', T0)];
  const at = (minutes: number) => {
    const progress = progressOf(plan, placed);
    return patchStatus(progress.lines.find(l => l.patch === first)!, progress.airs, T0 + minutes * MIN).phase;
  };
  const aim = settingsOf(plan, first).dryHours * 60;
  it('waits, is ready, is overdue by its window', () => {
    expect(at(aim * 0.5)).toBe('waiting');
    expect(at(aim * 1.1)).toBe('ready');
    expect(at(aim * 1.5)).toBe('overdue');
  });
  it('goes back a step when the step is undone', () => {
    const undo: TrialRecord = {
      id: 'u',
      at: new Date(T0 + MIN).toISOString(),
      kind: 'undo',
      patch: first.code,
      of: placed.at(-1)!.id,
    };
    const progress = progressOf(plan, [...placed, undo]);
    expect(
      patchStatus(progress.lines.find(l => l.patch === first)!, progress.airs, T0 + MIN).next?.step.id,
    ).toBe('place');
  });
  it('goes through wetting, rubbing and looking once a round', () => {
    const chain = chainOf(examplePlan({ usual: { ...plan.usual, rounds: 3 } }), first);
    expect(chain.filter(l => l.step.id === 'rub').map(l => l.round)).toEqual([1, 2, 3]);
    expect(chain.some(l => l.step.id === 'prepare')).toBe(false);
  });
  it('has less time to be placed on a thirsty ground, more under a thick coat', () => {
    const s = settingsOf(plan, first);
    const base = openMinutes(s, plan.air);
    expect(openMinutes({ ...s, coatMm: 0.8 }, plan.air)).toBeGreaterThan(base);
    expect(openMinutes({ ...s, substrate: { ...s.substrate, thirst: 0.9 } }, plan.air)).toBeLessThan(base);
    expect(base).toBeGreaterThan(2);
  });
});

describe('the forecast', () => {
  it('ends after the longest chain and counts all the work', () => {
    const f = forecast(plan, [], T0);
    const work = plan.patches.reduce(
      (sum, p) => sum + chainOf(plan, p).reduce((s, l) => s + l.step.handsOnMin, 0),
      0,
    );
    expect(f.handsOnMin).toBeCloseTo(work, 6);
    expect(f.endsAt - T0).toBeGreaterThan(20 * 60 * MIN);
    expect(f.endsAt - T0).toBeLessThan(30 * 60 * MIN);
  });
  it('counts what has been done already', () => {
    expect(forecast(plan, marked, T0).handsOnMin).toBeLessThan(forecast(plan, [], T0).handsOnMin);
  });
});
