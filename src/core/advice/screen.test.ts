import { describe, expect, it } from 'vitest';
import { planOf } from '../questions/example.ts';
import { USUAL_WORKING } from '../schedule/index.ts';
import type { TrialRecord } from '../trial/index.ts';
import {
  type AtHand,
  BLANK,
  calledFor,
  comesUp,
  goesThere,
  type Next,
  pressed,
  quickestMs,
  type Screen,
  takenUp,
  whatNext,
} from './index.ts';

const MIN = 60_000;
const T0 = new Date(2026, 4, 2, 9, 0).getTime();
const plan = planOf('wet-rub');
const [one, two] = [...plan.patches].sort((a, b) => a.order - b.order);

const done = (patch: string, step: string, at: number): TrialRecord => ({
  ...{ id: `${patch} ${step}`, at: new Date(at).toISOString(), kind: 'step' as const, patch, step, round: 1 },
});
const marked = plan.patches.map(p => done(p.code, 'mark', T0 - MIN));
const at = (patch: string, step: string, since: number): AtHand => ({
  ...{ trial: plan.id, patch, step, round: 1, since },
});
const ask = (records: readonly TrialRecord[], now: number, atHand?: AtHand): Next =>
  whatNext([{ plan, records }], USUAL_WORKING, now, { atHand });

/** Coating the first, and the second, as answers. */
const first = ask(marked, T0);
const second = ask(marked, T0, at(two.code, 'coat', T0));
const held = ask(marked, T0, at(one.code, 'coat', T0));
const nothing = whatNext([], USUAL_WORKING, T0);
/** All are placed: paper is wetted hours later. */
const drying = (now: number) =>
  ask(
    [
      ...marked,
      ...plan.patches.flatMap((p, i) => [
        done(p.code, 'coat', T0 + i * 20),
        done(p.code, 'place', T0 + i * 20 + 10),
      ]),
    ],
    now,
  );
const on = (next: Next, screen: Screen = BLANK, now = T0) => comesUp(screen, next, now);

describe('what stands on the screen', () => {
  it('is the first thing by itself to nobody: who opened the bench called for it', () => {
    expect(on(first)).toMatchObject({ came: 'called for', since: T0, waits: false, atHand: false });
  });

  it('of a bench opened anew remembers what hands were at when it was left', () => {
    expect(comesUp(BLANK, { ...second, isAtHand: false }, T0, at(one.code, 'coat', T0)).came).toBe(
      'in its place',
    );
    expect(comesUp(BLANK, first, T0, at(one.code, 'coat', T0 - 90 * MIN)).came).toBe('called for');
    expect(comesUp(BLANK, held, T0, at(one.code, 'coat', T0)).came).toBe('called for');
    expect(comesUp(on(first), second, T0, at(one.code, 'coat', T0 - 90 * MIN)).came).toBe('by itself');
  });

  it('is the same screen while the answer is the same', () => {
    const screen = on(first);
    expect(comesUp(screen, first, T0 + 9000)).toBe(screen);
    expect(comesUp(screen, held, T0 + 9000)).toEqual({ ...screen, atHand: true });
    // Hands that went away from it may come back and press.
    expect(comesUp(on(held), first, T0 + 90 * MIN).atHand).toBe(true);
    expect(on(second, comesUp(on(held), first, T0 + 90 * MIN), T0 + 91 * MIN).came).toBe('in its place');
  });

  it('knows whether another came by a press, by itself, or in place of what was at hand', () => {
    expect(on(second, calledFor(on(held)), T0 + 5000)).toMatchObject({
      came: 'called for',
      since: T0 + 5000,
    });
    expect(on(second, on(first), T0 + 5000).came).toBe('by itself');
    expect(on(second, on(held), T0 + 5000).came).toBe('in its place');
    expect(on(nothing, on(second, on(held), T0 + 5000), T0 + 6000).came).toBe('in its place');
    // One press calls for one instruction.
    expect(on(first, on(second, calledFor(on(held))), T0 + 5000).came).toBe('in its place');
    expect(on(nothing, on(first)).name).toBe('');
  });

  it('counts from when there was something to do, not from when it was waited for', () => {
    const waits = on(drying(T0 + MIN), BLANK, T0 + MIN);
    expect(waits.waits).toBe(true);
    const { action } = drying(T0 + MIN);
    const due = action.kind === 'wait' ? action.until : 0;
    expect(on(drying(due), waits, due)).toMatchObject({ waits: false, since: due, came: 'called for' });
    const instead = comesUp(on(held), drying(T0 + MIN), T0 + MIN);
    expect(on(drying(due), instead, due)).toMatchObject({ waits: false, since: due, came: 'in its place' });
  });
});

describe('hands', () => {
  it('are taken to be at what has stood there for a moment', () => {
    const screen = on(first);
    expect(takenUp(screen, first, T0 + 299)).toBeUndefined();
    expect(takenUp(screen, first, T0 + 300)).toEqual(at(one.code, 'coat', T0));
    expect(takenUp(screen, first, T0 + 90 * MIN)?.since).toBe(T0 + 90 * MIN - 300);
    expect(takenUp(screen, held, T0 + 300)).toBeUndefined();
    expect(takenUp(screen, nothing, T0 + 300)).toBeUndefined();
    expect(takenUp(comesUp(on(held), first, T0 + 90 * MIN), first, T0 + 90 * MIN)).toBeUndefined();
    const wait = drying(T0 + MIN);
    expect(takenUp(on(wait), wait, T0 + 5 * MIN)).toBeUndefined();
  });
});

describe('a press', () => {
  it('records what stands on the screen, from when hands took it up', () => {
    const { draft, screen } = pressed(on(first), first, T0 + MIN);
    expect(draft).toEqual({
      ...{ kind: 'step', patch: one.code, step: 'coat', round: 1, begun: new Date(T0).toISOString() },
    });
    expect(screen).toMatchObject({ calls: true, pressedAt: T0 + MIN, said: undefined });
    expect(pressed(on(first), first, T0 + MIN, T0 + 5000).draft?.begun).toBe(
      new Date(T0 + 5000).toISOString(),
    );
    expect(pressed(on(nothing), nothing, T0 + MIN).draft).toBeUndefined();
  });

  it('within what nobody can have read of an instruction that came up by itself, is passed over', () => {
    const screen = on(second, on(first), T0 + MIN);
    const early = pressed(screen, second, T0 + MIN + 699);
    expect(early.draft).toBeUndefined();
    expect(early.screen.said).toBe('just changed');
    expect(pressed(screen, second, T0 + MIN + 700).draft?.patch).toBe(two.code);
    // What was called for may be done at once.
    expect(pressed(on(second, calledFor(on(first)), T0), second, T0 + 1).draft?.patch).toBe(two.code);
  });

  it('is asked about when the instruction took the place of what hands were at, however long ago', () => {
    const screen = on(second, on(held), T0 + MIN);
    const asked = pressed(screen, second, T0 + 90 * MIN);
    expect(asked.draft).toBeUndefined();
    expect(asked.screen.said).toBe('in its place');
    expect(pressed(asked.screen, second, T0 + 90 * MIN + 350).draft?.patch).toBe(two.code);
  });

  it('that is doubled counts once', () => {
    const { screen } = pressed(on(first), first, T0 + MIN);
    const then = on(second, screen, T0 + MIN + 20);
    expect(pressed(then, second, T0 + MIN + 349).draft).toBeUndefined();
    expect(pressed(then, second, T0 + MIN + 349).screen).toBe(then);
    expect(pressed(then, second, T0 + MIN + 350).screen.said).toBe('too quick');
  });

  it('that comes sooner than a hand can have done the step is asked about, and counts when it is pressed again', () => {
    const { screen } = pressed(on(first), first, T0 + MIN);
    const then = on(second, screen, T0 + MIN + 20);
    if (second.action.kind === 'finished') throw new Error('it goes on');
    const least = quickestMs(second.action.link.step.handsOnMin);
    expect(least).toBeGreaterThanOrEqual(2000);
    for (const after of [400, 1000, 2000, least - 1]) {
      const quick = pressed(then, second, T0 + MIN + Math.min(after, least - 1));
      expect(quick.draft, `${after} ms after`).toBeUndefined();
      expect(quick.screen.said).toBe('too quick');
      // Asked, and pressed once more: it is done, however soon.
      const again = pressed(comesUp(quick.screen, second, T0 + MIN + after), second, T0 + MIN + after + 350);
      expect(again.draft?.patch).toBe(two.code);
    }
    expect(pressed(then, second, T0 + MIN + least).draft?.patch).toBe(two.code);
  });

  it('may come the sooner the less a step takes, within what a hand and an eye need', () => {
    expect([0.1, 0.5, 1, 4, 90].map(quickestMs)).toEqual([2000, 2400, 4800, 19_200, 20_000]);
  });

  it('goes to another trial’s bench only once that can have been read, and not by a doubled press', () => {
    const screen = on(second, on(first), T0);
    expect(goesThere(screen, T0 + 699)).toBe(false);
    expect(goesThere(screen, T0 + 700)).toBe(true);
    expect(goesThere({ ...screen, pressedAt: T0 + 400 }, T0 + 749)).toBe(false);
    expect(goesThere({ ...screen, pressedAt: T0 + 400 }, T0 + 750)).toBe(true);
  });

  it('before its time has to be pressed again, within ten seconds', () => {
    const wait = drying(T0 + MIN);
    const shown = on(wait, BLANK, T0 + MIN);
    const soon = pressed(shown, wait, T0 + 2 * MIN);
    expect(soon.draft).toBeUndefined();
    expect(soon.screen.said).toBe('too soon');
    const still = comesUp(soon.screen, wait, T0 + 2 * MIN + 10_000);
    expect(still).toBe(soon.screen);
    expect(pressed(still, wait, T0 + 2 * MIN + 10_000).draft?.patch).toBe(
      wait.action.kind === 'wait' ? wait.action.patch.code : '',
    );
    // An elbow much later is not its second press.
    const over = comesUp(soon.screen, wait, T0 + 2 * MIN + 10_001);
    expect(over.said).toBeUndefined();
    expect(pressed(over, wait, T0 + 3 * MIN).screen.said).toBe('too soon');
  });

  it('while it is waited for has to be pressed again, even where its window is open', () => {
    const wait = drying(T0 + MIN);
    if (wait.action.kind !== 'wait') throw new Error('it waits');
    const { window } = wait.action.status;
    const at = window!.opens + 1;
    expect(pressed(on(wait, BLANK, T0 + MIN), wait, at).screen.said).toBe('too soon');
  });

  it('of what is to be done before its window needs a second, and none from its opening on', () => {
    const wait = drying(T0 + MIN);
    if (wait.action.kind !== 'wait') throw new Error('it waits');
    const { opens } = wait.action.status.window!;
    const { until, ...rest } = wait.action;
    expect(until).toBeGreaterThan(opens);
    const chosen: Next = { ...wait, action: { ...rest, kind: 'do', why: '' } };
    const screen = on(chosen, BLANK, T0 + MIN);
    expect(pressed(screen, chosen, opens - 1).screen.said).toBe('too soon');
    expect(pressed(screen, chosen, opens).draft?.step).toBe(rest.link.step.id);
  });
});

describe('a press for several pieces at once', () => {
  it('records the step for all of them', () => {
    const many: Next = { ...first, also: [two.code] };
    const screen = comesUp(calledFor(BLANK), many, T0);
    expect(pressed(screen, many, T0 + 5 * MIN).draft).toMatchObject({ patch: one.code, also: [two.code] });
    const single = pressed(comesUp(calledFor(BLANK), first, T0), first, T0 + 5 * MIN).draft!;
    expect('also' in single).toBe(false);
  });
});
