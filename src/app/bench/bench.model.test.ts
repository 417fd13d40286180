import { describe, expect, it } from 'vitest';
import { BLANK, calledFor, comesUp, whatNext } from '../../core/advice/index.ts';
import { examplePlan } from '../../core/design/example.ts';
import type { Sign } from '../../core/drying/index.ts';
import { USUAL_WORKING } from '../../core/schedule/index.ts';
import { chainOf } from '../../core/steps/index.ts';
import { readingFor } from '../../core/trial/example.ts';
import type { TrialRecord } from '../../core/trial/index.ts';
import type { RecordDraft } from '../../store/index.ts';
import {
  asksForWait,
  canHaveBeen,
  foundReady,
  freesHands,
  givenUp,
  isLowerTap,
  keyDoes,
  lastDoneAt,
  leftOut,
  needsSetUp,
  pressControl,
  toldLate,
  undone,
  undoSays,
  unseenOf,
  WHYS,
  whyHeading,
} from './bench.model.ts';

const MIN = 60_000;
const HOUR = 60 * MIN;
const T0 = Date.parse('2026-05-02T09:00:00.000Z');
const plan = examplePlan();
const [one, two] = [...plan.patches].sort((x, y) => x.order - y.order);
const iso = (ms: number) => new Date(ms).toISOString();
let count = 0;
const kept = (part: object, at = T0): TrialRecord => ({ id: `b${++count}`, at: iso(at), ...part }) as never;
const air = (at = T0) => kept({ kind: 'air', patch: null, air: plan.air }, at);
const mark = (patch: string, at = T0) => kept({ kind: 'step', patch, step: 'mark', round: 1 }, at);
const marked = plan.patches.map(p => mark(p.code));
const [link] = chainOf(plan, one);

describe('the set-up of the bench', () => {
  it('comes first, and again after half a day in which nothing was done', () => {
    expect(needsSetUp([], T0)).toBe(true);
    expect(needsSetUp([mark(one.code)], T0)).toBe(true);
    expect(needsSetUp([air()], T0 + 1)).toBe(false);
    expect(needsSetUp([air()], T0 + 12 * HOUR - 1)).toBe(false);
    expect(needsSetUp([air()], T0 + 12 * HOUR)).toBe(true);
    // A step counts as being there; a note does not.
    expect(needsSetUp([air(), mark(one.code, T0 + 6 * HOUR)], T0 + 13 * HOUR)).toBe(false);
    const note = kept({ kind: 'note', patch: null, text: 'x' }, T0 + 6 * HOUR);
    expect(needsSetUp([air(), note], T0 + 13 * HOUR)).toBe(true);
    const noted = air();
    const undo = kept({ kind: 'undo', patch: null, of: noted.id });
    expect(needsSetUp([noted, undo], T0 + 1)).toBe(true);
  });
});

describe('a learnt wait', () => {
  const lessons = [{ shortWaits: [{ method: 'film-pull' }] }];
  it('is asked for where the workshop has waits of the method and the trial compares none', () => {
    expect(asksForWait({ method: 'film-pull', factors: [] }, lessons)).toBe(true);
    expect(asksForWait({ method: 'wet-rub', factors: [] }, lessons)).toBe(false);
    const ladder = [{ key: 'dryHours', levels: [1, 2] }] as const;
    expect(asksForWait({ method: 'film-pull', factors: ladder as never }, lessons)).toBe(false);
    expect(asksForWait({ method: 'film-pull', factors: [] }, [])).toBe(false);
  });
});

describe('a tap and a key', () => {
  it('counts below the middle, on nothing that is for pressing', () => {
    expect(isLowerTap(401, 800, false)).toBe(true);
    expect(isLowerTap(400, 800, false)).toBe(false);
    expect(isLowerTap(100, 800, false)).toBe(false);
    expect(isLowerTap(700, 800, true)).toBe(false);
  });

  const keys = { ' ': 'press', Enter: 'press', u: 'undo', pagedown: 'press' };
  const free = { isWriting: false, isWithAnother: false, isOnControl: false };
  it.each([
    [' ', free, 'press'],
    ['Enter', free, 'press'],
    ['PageDown', free, 'press'],
    ['U', free, 'undo'],
    ['q', free, undefined],
    [' ', { ...free, isOnControl: true }, undefined],
    ['u', { ...free, isOnControl: true }, 'undo'],
    ['u', { ...free, isWriting: true }, undefined],
    ['u', { ...free, isWithAnother: true }, undefined],
  ])('“%s” with %o does %s', (key, held, does) => {
    expect(keyDoes(keys, { key, ...held })).toBe(does);
  });
});

describe('what is recorded', () => {
  it('of a piece that was given up is a slip: it says nothing of what was tried', () => {
    expect(givenUp(one.code)).toMatchObject({ kind: 'spoilt', patch: one.code, slip: true });
  });

  it('of a slip of the hand stands under the words that say so, and what failed under its own', () => {
    const slips = WHYS.filter(w => w.slip).map(w => w.why);
    expect(slips).toEqual(['It slipped from me', 'I touched it', 'Wrong side or piece']);
    expect(whyHeading(true)).toMatch(/^My slip: it says nothing/);
    expect(whyHeading(false)).toMatch(/^It failed: that counts against/);
  });

  it('of a step told late is when it was done, and when that was told', () => {
    const told = { patch: one.code, link, also: [two.code] };
    expect(toldLate(told, 3, T0)).toEqual({
      ...{ kind: 'step', patch: one.code, step: link.step.id, round: link.round, also: [two.code] },
      ...{ at: iso(T0 - 3 * MIN), told: iso(T0) },
    });
    expect(leftOut({ ...told, also: [] })).toEqual({
      ...{ kind: 'step', patch: one.code, step: link.step.id, round: link.round, skipped: true },
    });
    expect(canHaveBeen(3, T0 - 3 * MIN, T0)).toBe(true);
    expect(canHaveBeen(3, T0 - 3 * MIN + 1, T0)).toBe(false);
    expect(canHaveBeen(60, undefined, T0)).toBe(true);
  });

  it('of undo names what it takes back, and a step is in hand again', () => {
    const step = mark(one.code);
    const { draft, again } = undone(step, plan.id, T0 + 5);
    expect(draft).toEqual({ kind: 'undo', patch: one.code, of: step.id });
    expect(again).toEqual({ trial: plan.id, patch: one.code, step: 'mark', round: 1, since: T0 + 5 });
    expect(undone(air(), plan.id, T0).again).toBeUndefined();
    expect(undoSays(step)).toContain(one.code);
  });

  it('frees the hands where a step, a slip or an undo is among it', () => {
    const drafts = (kind: string) => [{ kind, patch: one.code }] as unknown as RecordDraft[];
    for (const kind of ['step', 'spoilt', 'undo']) expect(freesHands(drafts(kind)), kind).toBe(true);
    for (const kind of ['note', 'photo', 'coat', 'ready']) expect(freesHands(drafts(kind)), kind).toBe(false);
  });
});

describe('what is told beside the instruction', () => {
  it('names pieces without a dry photo', () => {
    const records = [...readingFor(one.code, 1, {}), ...readingFor(two.code, 2, {}, 'wet')];
    const codes = [one.code, two.code, plan.patches.at(-1)!.code];
    expect(unseenOf(records, codes)).toEqual(codes.slice(1));
  });

  it('knows when a piece was worked on last', () => {
    expect(lastDoneAt({ doneAt: [5, undefined, 9, 7] })).toBe(9);
    expect(lastDoneAt({ doneAt: [undefined] })).toBeUndefined();
  });
});

describe('the control', () => {
  const now = T0 + 10 * MIN;
  const next = whatNext([{ plan, records: [air(), ...marked] }], USUAL_WORKING, now);
  const shown = () => ({ current: calledFor(comesUp(calledFor(BLANK), next, now - 5 * MIN)) });
  const asked = { now, since: now - MIN, sign: undefined };

  it('writes the step that stands there, since when hands were at it', async () => {
    const written: RecordDraft[] = [];
    const write = async (drafts: readonly RecordDraft[]) => Boolean(written.push(...drafts));
    const screen = shown();
    expect(await pressControl(screen, next, asked, write)).toBe('done');
    expect(written).toMatchObject([{ kind: 'step', begun: iso(now - MIN) }]);
    // The second of a doubled press records nothing.
    expect(await pressControl(screen, next, { ...asked, now: now + 10 }, write)).toBe('nothing');
    expect(written).toHaveLength(1);
  });

  it('was not pressed where the write was refused: the screen is what it was, and the next press counts', async () => {
    const screen = shown();
    const before = screen.current;
    expect(await pressControl(screen, next, asked, async () => false)).toBe('refused');
    expect(screen.current).toBe(before);
    expect(await pressControl(screen, next, { ...asked, now: now + 10 }, async () => true)).toBe('done');
  });

  it('first says that pieces are ready, where that is asked', async () => {
    if (next.action.kind !== 'do') throw new Error('nothing to do');
    const sign = { patches: [one.code, two.code] } as unknown as Sign;
    const written: RecordDraft[] = [];
    const write = async (drafts: readonly RecordDraft[]) => Boolean(written.push(...drafts));
    expect(await pressControl(shown(), next, { ...asked, sign }, write)).toBe('ready');
    const { step, round } = next.action.link;
    expect(written).toEqual(
      [one.code, two.code].map(patch => ({ kind: 'ready', patch, ready: true, step: step.id, round })),
    );
    expect(foundReady(sign, next.action.link, false).every(d => d.kind === 'ready' && !d.ready)).toBe(true);
  });
});
