import { isShortWindow } from '../steps/index.ts';
import { type AtHand, actionName, begunAt, type Next, nameOf } from './next.ts';

/**
 * Why an instruction is on the screen: a press called for it; it came up by itself; or it came up by itself in place of
 * one that hands were at and nobody had said was done.
 */
type Came = 'called for' | 'by itself' | 'in its place';

/** What stands on the screen of a bench, and since when. Never changed in place. */
export interface Screen {
  /** The action by name; empty when there is none. */
  readonly name: string;
  /** Whether it is only waited for. */
  readonly waits: boolean;
  /** Since when, ms. */
  readonly since: number;
  readonly came: Came;
  /** Whether hands were at it since it came up: they may be at it still, however long they have been away. */
  readonly atHand: boolean;
  /** Whether what comes up next was called for by a press. */
  readonly calls: boolean;
  /** When a press was taken last, ms. */
  readonly pressedAt: number;
  /** When a press last recorded something, ms. */
  readonly recordedAt: number;
  /** Why the press before did not count, for as long as that is said. */
  readonly said: 'too soon' | 'too quick' | 'just changed' | 'in its place' | undefined;
}

/** The screen before anything is on it. */
export const BLANK: Screen = {
  name: '',
  waits: false,
  since: 0,
  came: 'called for',
  atHand: false,
  calls: true,
  pressedAt: Number.NEGATIVE_INFINITY,
  recordedAt: Number.NEGATIVE_INFINITY,
  said: undefined,
};

/** Nobody has read an instruction that came up by itself less than so long ago, ms. */
const READ_MS = 700;
/** Two presses closer together than this are one, of a wet finger or a loose pedal, ms. */
const BOUNCE_MS = 350;
/** The quickest hands need so much of what a step is stated to take; never less than it takes to read and reach, never long. */
const QUICKEST = 0.08;
const QUICKEST_MS = { least: 2000, most: 20_000 };

/**
 * The least time in which hands can have done a step after the one before it, ms: by what it is stated to take.
 *
 * @example quickestMs(1); // => 4800
 * @example quickestMs(0.1); // => 2000
 */
export const quickestMs = (handsOnMin: number): number =>
  Math.min(QUICKEST_MS.most, Math.max(QUICKEST_MS.least, handsOnMin * 60_000 * QUICKEST));

/** After so long on the screen an instruction is taken to be what the hands are at; what was just recorded has been seen by then, ms. */
export const SETTLED_MS = 300;
/** What a press that did not count said stands for so long, ms: an elbow an hour later is not its second. */
const SAID_MS = 10_000;

/**
 * The screen with this answer on it from `now` (ms) on; the same screen where the answer is the same. `known` is what the
 * hands were taken to be at when the bench was opened, said to be done by nobody since.
 *
 * @example comesUp(BLANK, whatNext([{ plan, records: [] }], working, start), start).since === start; // => true
 */
export function comesUp(screen: Screen, next: Next, now: number, known?: AtHand): Screen {
  const name = actionName(next);
  const waits = next.action.kind === 'wait';
  const isSame = screen.name === name && screen.waits === waits;
  const atHand = next.isAtHand || (isSame && screen.atHand);
  if (isSame) {
    const isOver = screen.said !== undefined && now - screen.pressedAt > SAID_MS;
    if (screen.atHand === atHand && !isOver) return screen;
    return { ...screen, atHand, said: isOver ? undefined : screen.said };
  }
  const isStale = screen === BLANK && known !== undefined && !atHand && nameOf(known) !== name;
  const cameNow = (): Came => {
    // Nobody has said yet that what hands were at is done, whatever came and went since.
    if (isStale) return 'in its place';
    if (screen.calls) return 'called for';
    // Its time has come: it is the same piece and step.
    if (screen.name === name) return screen.came;
    return screen.atHand || screen.came === 'in its place' ? 'in its place' : 'by itself';
  };
  const came = cameNow();
  return { ...screen, name, waits, since: now, came, atHand, calls: false, said: undefined };
}

/** The screen after the maker chose what comes next: by a press, from the list, or by putting something aside. */
export const calledFor = (screen: Screen): Screen => ({ ...screen, calls: true });

/**
 * What the hands are taken to be at once an answer has been on the screen for {@link SETTLED_MS}; nothing where they are
 * known to be at it already, have gone away from it, or there is only to wait.
 *
 * @example takenUp(BLANK, whatNext([], working, start), start); // => undefined
 */
export function takenUp(screen: Screen, next: Next, now: number): AtHand | undefined {
  const { trial, action, isAtHand } = next;
  if (isAtHand || screen.atHand || action.kind !== 'do' || !trial) return undefined;
  if (now - screen.since < SETTLED_MS) return undefined;
  return {
    ...{ trial: trial.id, patch: action.patch.code, step: action.link.step.id, round: action.link.round },
    // Where nobody was at the bench while it stood there, hands take it up now.
    since: Math.max(screen.since, now - SETTLED_MS),
  };
}

/** That a step was done. */
export interface StepDone {
  readonly kind: 'step';
  readonly patch: string;
  readonly step: string;
  readonly round: number;
  readonly begun: string;
  readonly also?: string[];
}

/**
 * Whether a press at `now` (ms) goes to the bench of the other trial that stands on the screen: not the second of a
 * doubled press, and not before anybody can have read it.
 *
 * @example goesThere({ ...BLANK, since: 1000 }, 1699); // => false
 */
export const goesThere = ({ since, pressedAt }: Screen, now: number): boolean =>
  now - since >= READ_MS && now - pressedAt >= BOUNCE_MS;

/** Whether no hand can have done a step since the press before it was recorded; asked once, then a press counts. */
const isTooQuick = ({ said, recordedAt }: Screen, handsOnMin: number, now: number): boolean =>
  said !== 'too quick' && said !== 'too soon' && now - recordedAt < quickestMs(handsOnMin);

/** What a press came to: the screen after it, and what it records, if anything. */
export interface Pressed {
  readonly screen: Screen;
  readonly draft?: StepDone;
}

/**
 * What a press at `now` (ms) means for the answer that is on the screen. It records that answer, or nothing: where it
 * may have been meant for what stood there before, is the second of a doubled press, comes sooner than hands can have
 * done it, or before its time (then a second press counts). `since` is when hands took it up (ms), where that is known.
 *
 * @example pressed(BLANK, whatNext([], working, start), start).draft; // => undefined
 */
export function pressed(screen: Screen, { action, also }: Next, now: number, since?: number): Pressed {
  if (action.kind === 'finished' || now - screen.pressedAt < BOUNCE_MS) return { screen };
  const { window } = action.status;
  const soon = action.kind === 'wait' || (window !== undefined && now < window.opens);
  const said =
    screen.came === 'in its place'
      ? screen.came
      : screen.came === 'by itself' && now - screen.since < READ_MS
        ? 'just changed'
        : soon && screen.said !== 'too soon'
          ? 'too soon'
          : isTooQuick(screen, action.link.step.handsOnMin, now)
            ? 'too quick'
            : undefined;
  // What was said once of a change is known.
  const came = said === 'in its place' ? 'called for' : screen.came;
  if (said) return { screen: { ...screen, came, said, pressedAt: now } };
  const aim = window && isShortWindow(window) ? window.aim : undefined;
  return {
    screen: { ...screen, calls: true, said: undefined, pressedAt: now, recordedAt: now },
    draft: {
      kind: 'step',
      patch: action.patch.code,
      step: action.link.step.id,
      round: action.link.round,
      begun: new Date(begunAt(since ?? screen.since, aim, now)).toISOString(),
      ...(also.length ? { also: [...also] } : {}),
    },
  };
}
