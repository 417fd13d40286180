import { alsoNow, isLate, patchStatus, progressOf, type Trialled } from '../progress/index.ts';
import { type Action, type Spans, sittingsFrom, tidySpans, type Working } from '../schedule/index.ts';
import { isShortWait, isShortWindow, type Link } from '../steps/index.ts';
import type { TrialPlan } from '../trial/index.ts';
import { advise, slackOf } from './advise.ts';
import { type Desk, type DeskLine, deskOf } from './desk.ts';
import { type Pace, paceOf } from './pace.ts';
import { type Move, Play, whenThere } from './play.ts';
import { guarded } from './rules.ts';

/** What the hands are at, or are taken to be at: the action whose instruction is on the screen. */
export interface AtHand {
  readonly trial: string;
  readonly patch: string;
  readonly step: string;
  readonly round: number;
  /** When its instruction came up, ms. */
  readonly since: number;
}

/** Something that comes later. */
export interface Upcoming {
  readonly trial: TrialPlan;
  readonly patch: string;
  readonly link: Link;
  readonly from: number;
}

/** A window that will probably be missed. */
export interface LikelyLoss {
  readonly trial: TrialPlan;
  readonly patch: string;
  readonly what: string;
  readonly closes: number;
  readonly chance: number;
}

/** The one thing for these hands, whichever trial it is of, what comes after it, and what waits meanwhile. */
export interface Next {
  /** Whose action it is; nothing when all is done. */
  readonly trial: TrialPlan | undefined;
  readonly action: Action;
  /** Whether it is what the hands are at, so that nothing takes its place. */
  readonly isAtHand: boolean;
  /** Other patches that the action is done for in the same go. */
  readonly also: readonly string[];
  /** What has to be done with the brush or the medium before it. */
  readonly first: readonly ('wash' | 'make')[];
  readonly next: readonly Upcoming[];
  /** Patches that wait for something with a window, the soonest first; the one of the action is not among them. */
  readonly waiting: readonly (Upcoming & { readonly aim: number })[];
  readonly losses: readonly LikelyLoss[];
}

/** What is known beside the records. */
export interface NextOptions {
  readonly atHand?: AtHand | undefined;
  /** Name of the action that was advised last, by {@link nameOf}: it stays unless another is truly better. */
  readonly before?: string | undefined;
  /** Names of actions that the maker put aside: they come when nothing else does. */
  readonly aside?: ReadonlySet<string>;
  /** The maker is there until then (ms), whatever their sittings say. */
  readonly hereUntil?: number;
}

/** An action by name: whose piece, and which of its steps. */
const nameIn = (desk: Desk, { trial, code, links: [{ link }] }: DeskLine): string =>
  nameOf({ trial: desk.trials[trial].plan.id, patch: code, step: link.step.id, round: link.round });

/**
 * An action by name, to tell whether it is still the same.
 *
 * @example nameOf({ trial: 'T', patch: 'K7', step: 'coat', round: 1 }); // => 'T K7 coat 1'
 */
export const nameOf = (a: Omit<AtHand, 'since'>): string => `${a.trial} ${a.patch} ${a.step} ${a.round}`;

/** Hands are not at something for longer than this, or than so many times what it takes: the maker went away. */
const AWAY_MS = 30 * 60_000;
const AWAY_TIMES = 6;

/** The line whose next action the hands are at; nothing where it was done meanwhile, or they went away. */
function heldLine(desk: Desk, atHand: AtHand | undefined): number {
  if (!atHand) return -1;
  const i = desk.lines.findIndex(line => nameIn(desk, line) === nameOf(atHand));
  if (i < 0) return -1;
  const due = desk.due[i];
  // Who stands by for a window that is still to come has not gone away.
  const from = Math.max(atHand.since, due?.aim ?? atHand.since);
  return desk.now - from > Math.max(AWAY_MS, AWAY_TIMES * desk.lines[i].links[0].hands) ? -1 : i;
}

/**
 * What these hands do next, over all their trials, at a moment (ms): what they are at, until it is done, put aside or
 * given up; else what {@link advise} says. The one answer for the opening view, Make and the bench.
 *
 * @example whatNext([{ plan, records: [] }], working, start).action.kind; // => 'do'
 */
export function whatNext(
  known: readonly Trialled[],
  working: Working,
  now: number,
  options: NextOptions = {},
): Next {
  const since = lastOf(known);
  const isHeld = options.atHand !== undefined;
  if (since >= now || isHeld) {
    const found = nextAt(known, working, now, options);
    if (!isHeld || found.isAtHand || since >= now) return found;
  }
  // A moment that was said stands for as long as nothing is recorded: it does not come sooner while one waits for it.
  const said = nextAt(known, working, since, options);
  const isWait = said.action.kind === 'wait' && said.action.until > now;
  return nextAt(
    known,
    working,
    now,
    isWait && said.action.kind === 'wait'
      ? { ...options, said: { name: actionName(said), until: said.action.until } }
      : options,
  );
}

/** When anything was recorded last, ms. */
const lastOf = (trials: readonly Trialled[]): number =>
  trials.reduce((last, t) => t.records.reduce((at, r) => Math.max(at, Date.parse(r.at)), last), 0);

function nextAt(
  known: readonly Trialled[],
  working: Working,
  now: number,
  options: NextOptions & { readonly said?: { readonly name: string; readonly until: number } },
): Next {
  // Where it is open which comes first, that is the trial whose bench they stand at.
  const trials = [...known].sort((a, b) => lastAt(b) - lastAt(a));
  const desk = deskOf(trials, working, now);
  const sittings = sittingsFrom(working.sittings, now);
  const there =
    options.hereUntil === undefined ? sittings : tidySpans([...sittings, [now, options.hereUntil]]);
  const pace = paceOf(trials);
  const held = heldLine(desk, options.atHand);
  const said = options.said && desk.lines.findIndex(line => nameIn(desk, line) === options.said!.name);
  const found =
    held >= 0
      ? advise(desk, there, pace, { begun: { line: held, start: now } })
      : said !== undefined && said >= 0
        ? advise(desk, there, pace, { begun: { line: said, start: options.said!.until } })
        : advised(desk, there, pace, options);
  if (!found) return FINISHED;
  // Where nobody is there it waits until somebody is.
  const move = { ...found.move, start: held >= 0 ? now : whenThere(there, found.move.start) };
  const line = desk.lines[move.line];
  const { plan, records } = trials[line.trial];
  const progress = progressOf(plan, records);
  const own = progress.lines.find(l => l.patch.code === line.code)!;
  const { link } = line.links[0];
  const action = actionOf(desk, move, held >= 0, own.patch, patchStatus(own, progress.airs, now), link);
  return {
    trial: plan,
    action,
    isAtHand: held >= 0,
    also: action.kind === 'do' ? alsoNow(progress, line.code, link) : [],
    first: toolsFor(desk, line, now),
    next: after(desk, there, move, slackOf(pace)),
    waiting: desk.lines
      .flatMap((other, i) => {
        const due = desk.due[i];
        if (!due || i === move.line) return [];
        return [{ ...upcoming(desk, other, 0, due.aim), aim: due.aim }];
      })
      .sort((a, b) => a.aim - b.aim),
    losses: found.losses.map(({ line: i, chance }) => ({
      trial: trials[desk.lines[i].trial].plan,
      patch: desk.lines[i].code,
      what: desk.lines[i].links[0].link.step.action,
      closes: desk.due[i]?.closes ?? now,
      chance,
    })),
  };
}

/** When something was done at a trial's bench last, ms. */
const lastAt = ({ records }: Trialled): number =>
  records.reduce((last, r) => (AT_BENCH.includes(r.kind) ? Math.max(last, Date.parse(r.at)) : last), 0);
const AT_BENCH: readonly string[] = ['air', 'step', 'undo', 'spoilt'];

const FINISHED: Next = {
  trial: undefined,
  action: { kind: 'finished' },
  isAtHand: false,
  also: [],
  first: [],
  next: [],
  waiting: [],
  losses: [],
};

function advised(desk: Desk, there: Spans, pace: Pace, { before, aside }: NextOptions) {
  const isAside = (line: DeskLine) => aside?.has(nameIn(desk, line)) ?? false;
  const at = desk.lines.findIndex(line => nameIn(desk, line) === before);
  const last = at < 0 ? undefined : at;
  const wanted = desk.lines.flatMap((line, i) => (isAside(line) ? [] : [i]));
  return advise(desk, there, pace, { before: last, among: wanted.length ? new Set(wanted) : undefined });
}

const NOT_YET = 'What is begun now would be due when you are not there.';

function actionOf(
  desk: Desk,
  move: Move,
  isAtHand: boolean,
  patch: Extract<Action, { kind: 'do' }>['patch'],
  status: ReturnType<typeof patchStatus>,
  link: Link,
): Action {
  const { now } = desk;
  const isShort = status.window !== undefined && isShortWindow(status.window);
  // A short wait is stood through with the next instruction in view and the clock running.
  const standsBy = isShort && isShortWait((move.start - now) / 60_000);
  if (!isAtHand && now < move.start && !standsBy)
    return {
      kind: 'wait',
      patch,
      status,
      link,
      until: move.start,
      ...(status.window ? {} : { why: NOT_YET }),
    };
  const late = isLate(status, now);
  const why = late
    ? 'It is late: its window closed. Do it at once or give it up.'
    : isShort
      ? 'Its window is short.'
      : status.window
        ? 'Its time has come.'
        : 'Next in the order of work.';
  return { kind: 'do', patch, status, link, why, ...(isAtHand ? {} : { planned: move.start }) };
}

/** Washing the brush or mixing a batch before an action. */
function toolsFor(desk: Desk, { links: [{ brush, batch }] }: DeskLine, now: number): ('wash' | 'make')[] {
  const isOpen = batch && desk.batches.some(b => b.key === batch.key && b.left > 0 && b.until >= now);
  return [
    ...(brush && desk.brush && desk.brush !== brush ? (['wash'] as const) : []),
    ...(batch && !isOpen ? (['make'] as const) : []),
  ];
}

const upcoming = (desk: Desk, line: DeskLine, k: number, from: number): Upcoming => ({
  trial: desk.trials[line.trial].plan,
  patch: line.code,
  link: line.links[k].link,
  from,
});

/** How many actions that come later are named. */
const NAMED = 2;

/** The actions after a move, if everything takes as long as it is stated. */
function after(desk: Desk, there: Spans, move: Move, slack: number): Upcoming[] {
  const play = Play.of(desk, there);
  const found: Upcoming[] = [];
  play.make(move);
  while (found.length < NAMED) {
    const then = guarded(play, slack);
    if (!then) break;
    const line = desk.lines[then.line];
    found.push(upcoming(desk, line, play.at[then.line], Math.max(play.now, then.start)));
    play.make(then);
  }
  return found;
}

/**
 * When hands began with an action, ms: when its instruction came up, or, where they stood by for a short window, at its
 * best moment; never after it was done.
 *
 * @example begunAt(1000, undefined, 5000); // => 1000
 */
export const begunAt = (since: number, aim: number | undefined, done: number): number =>
  Math.min(done, Math.max(since, aim ?? since));

/**
 * The action of an answer by name, to tell whether it is still the same; empty when all is done.
 *
 * @example actionName(whatNext([], working, start)); // => ''
 */
export const actionName = ({ trial, action }: Pick<Next, 'trial' | 'action'>): string =>
  action.kind === 'finished' || !trial
    ? ''
    : nameOf({
        trial: trial.id,
        patch: action.patch.code,
        step: action.link.step.id,
        round: action.link.round,
      });
