import {
  Answers,
  type AtHand,
  actionName,
  BLANK,
  calledFor,
  comesUp,
  goesThere,
  type Next,
  pressed,
  SETTLED_MS,
  takenUp,
} from '../advice/index.ts';
import { progressOf, type Trialled } from '../progress/index.ts';
import { type Chance, chanceFrom, seedOf } from '../random/index.ts';
import type { Working } from '../schedule/index.ts';
import { handsOnMin } from '../steps/index.ts';
import { lastUndoable, type TrialPlan, type TrialRecord } from '../trial/index.ts';

const SEC = 1000;
const MIN = 60_000;

/** What a distracted maker does before a screen, each as a share of actions. */
export interface Distraction {
  /** Standard deviation of ln(taken / stated). */
  readonly sd: number;
  /** Called away in the middle of it, by minutes in the middle. */
  readonly away: number;
  readonly awayMin: number;
  /** Away for hours in the middle of it. */
  readonly gone: number;
  readonly doubled: number;
  /** An elbow on the control while the hands are at it; it is noticed and taken back. */
  readonly elbow: number;
  readonly undone: number;
  readonly notNow: number;
  /** Another waiting piece is chosen instead. */
  readonly chosen: number;
  readonly reloaded: number;
  readonly spoilt: number;
}
export const DISTRACTED: Distraction = {
  ...{ sd: 0.4, away: 0.1, awayMin: 5, gone: 0.01, doubled: 0.05, elbow: 0.02, undone: 0.03 },
  ...{ notNow: 0.04, chosen: 0.05, reloaded: 0.03, spoilt: 0.03 },
};

/** What came of it: presses of the control, records of a step, and those of a piece or step the hands were not at. */
export interface Watched {
  readonly presses: number;
  readonly records: number;
  readonly wrong: readonly string[];
  /** Presses that were asked about instead of counting. */
  readonly asked: number;
  readonly trials: readonly Trialled[];
}

/** A bench with its screen, as the app puts them together: what is shown, what is at hand, what a press records. */
class Bench {
  private readonly answers = new Answers();
  private screen = BLANK;
  private atHand: AtHand | undefined;
  private aside: ReadonlySet<string> = new Set();
  trials: readonly Trialled[];
  presses = 0;
  asked = 0;
  private count = 0;
  constructor(
    plans: readonly TrialPlan[],
    private readonly working: Working,
    private open: string,
  ) {
    this.trials = plans.map(plan => ({ plan, records: [] }));
  }

  /** What is shown at a moment; what has been shown for a while is at hand from then on. */
  shows(now: number): Next {
    const next = this.answer(now);
    this.screen = comesUp(this.screen, next, now, this.atHand);
    const hand = next.trial?.id === this.open ? takenUp(this.screen, next, now) : undefined;
    if (!hand) return next;
    this.atHand = hand;
    return this.shows(now);
  }

  private answer(now: number): Next {
    const { trials, working, atHand, aside } = this;
    return this.answers.nextAt('hands', this.open, { trials, working, atHand, aside }, now);
  }

  isElsewhere = (next: Next): boolean => next.trial !== undefined && next.trial.id !== this.open;

  /** Goes to the bench of another trial: that page begins anew. */
  go(trial: string): void {
    if (trial === this.open) return;
    this.open = trial;
    this.reload();
  }

  reload(): void {
    this.screen = BLANK;
    this.aside = new Set();
  }

  /** The control is pressed: the record that was written, if any. */
  press(now: number): TrialRecord | undefined {
    const next = this.shows(now);
    if (this.isElsewhere(next)) {
      if (goesThere(this.screen, now)) this.go(next.trial!.id);
      return undefined;
    }
    this.presses++;
    const { screen, draft } = pressed(this.screen, next, now, next.isAtHand ? this.atHand?.since : undefined);
    this.screen = screen;
    if (!draft) {
      this.asked++;
      return undefined;
    }
    return this.keep({ ...draft, id: this.id(), at: new Date(now).toISOString() }, undefined);
  }

  private id = () => `a${++this.count}`;

  private keep(record: TrialRecord, then: AtHand | undefined): TrialRecord {
    this.trials = this.trials.map(t =>
      t.plan.id === this.open ? { ...t, records: [...t.records, record] } : t,
    );
    this.screen = calledFor(this.screen);
    this.aside = new Set();
    this.atHand = then;
    return record;
  }

  private get here(): Trialled {
    return this.trials.find(t => t.plan.id === this.open)!;
  }

  undo(now: number): void {
    const last = lastUndoable(this.here.records);
    if (last?.kind !== 'step' || !last.patch) return;
    const again = { trial: this.open, patch: last.patch, step: last.step, round: last.round, since: now };
    this.keep(
      { kind: 'undo', id: this.id(), at: new Date(now).toISOString(), patch: last.patch, of: last.id },
      again,
    );
  }

  spoil(patch: string, now: number): void {
    const at = new Date(now).toISOString();
    this.keep({ kind: 'spoilt', id: this.id(), at, patch, why: 'It slipped' }, undefined);
  }

  notNow(now: number): void {
    const next = this.shows(now);
    this.screen = calledFor(this.screen);
    this.atHand = undefined;
    this.aside = new Set([...this.aside, actionName(next)]);
  }

  choose(patch: string, now: number): void {
    const line = progressOf(this.here.plan, this.here.records).lines.find(l => l.patch.code === patch);
    const link = line?.chain[line.doneAt.indexOf(undefined)];
    if (!link) return;
    this.screen = calledFor(this.screen);
    this.atHand = { trial: this.open, patch, step: link.step.id, round: link.round, since: now };
  }
}

/**
 * A made-up distracted maker works trials through before the screen of the bench: what hands are at is what stood there
 * when they took it up, whatever stands there later. Time goes in steps, with the screen asked at each, so that it may
 * change under the hands; the control is pressed without another look, but after hours away.
 *
 * @throws Error when the bench does not come to an end.
 */
export function watched(
  plans: readonly TrialPlan[],
  working: Working,
  d: Distraction,
  { seed, start }: { seed: number; start: number },
): Watched {
  const chance = chanceFrom(seedOf(`screen ${seed}`));
  const bench = new Bench(plans, working, plans[0].id);
  const wrong: string[] = [];
  let records = 0;
  let now = start;
  const happens = (share: number) => chance.next() < share;
  const goes = (ms: number, looks: number) => {
    for (let i = 1; i <= looks; i++) bench.shows(Math.round(now + (ms * i) / looks));
    now = Math.round(now + ms);
  };
  const took = (record: TrialRecord | undefined, meant: string) => {
    if (record?.kind !== 'step') return;
    records++;
    const was = `${record.patch} ${record.step} ${record.round}`;
    if (was !== meant) wrong.push(`${was} for ${meant}`);
  };
  for (let guard = 0; guard < 20_000; guard++) {
    const next = bench.shows(now);
    const { action } = next;
    if (action.kind === 'finished')
      return { presses: bench.presses, asked: bench.asked, records, wrong, trials: bench.trials };
    if (bench.isElsewhere(next)) {
      goes(SEC, 1);
      bench.press(now);
      continue;
    }
    if (action.kind === 'wait') {
      if (happens(d.elbow)) took(bench.press(now), 'nothing');
      goes(Math.max(SEC, action.until - now), 3);
      continue;
    }
    // Reading it takes longer than it takes the screen to settle.
    goes(SETTLED_MS + chance.next() * 2 * SEC, 2);
    if (happens(d.notNow)) {
      bench.notNow(now);
      continue;
    }
    const waiting = next.waiting.filter(w => w.trial.id === next.trial?.id);
    if (waiting.length && happens(d.chosen)) {
      bench.choose(chance.pick(waiting).patch, now);
      goes(SEC, 1);
    }
    now = workedOn(bench, now, { chance, happens, goes, took, d, clock: () => now });
  }
  throw new Error('The bench does not come to an end.');
}

interface Hands {
  readonly chance: Chance;
  happens(share: number): boolean;
  goes(ms: number, looks: number): void;
  took(record: TrialRecord | undefined, meant: string): void;
  readonly d: Distraction;
  clock(): number;
}

/** The hands do what stands on the screen now, with all that comes between; the moment they are done, ms. */
function workedOn(bench: Bench, now: number, { chance, happens, goes, took, d, clock }: Hands): number {
  const taken = bench.shows(now);
  const { action } = taken;
  if (action.kind !== 'do' || bench.isElsewhere(taken)) return now;
  const meant = `${action.patch.code} ${action.link.step.id} ${action.link.round}`;
  const { plan } = bench.trials.find(t => t.plan.id === taken.trial?.id)!;
  const line = progressOf(plan, []).lines.find(l => l.patch.code === action.patch.code)!;
  const hands = handsOnMin(action.link.step, line) * MIN * (1 + taken.also.length);
  const stands = Math.max(0, (action.planned ?? now) - now, (action.status.window?.opens ?? now) - now);
  if (happens(d.elbow)) {
    const record = bench.press(clock());
    took(record, meant);
    if (record) bench.undo(clock() + SEC);
    goes(2 * SEC, 1);
  }
  goes(stands + hands * Math.exp(chance.normal(0, d.sd)), 4);
  if (happens(d.away)) goes(-Math.log(1 - chance.next()) * d.awayMin * MIN, 3);
  if (happens(d.reloaded)) bench.reload();
  const isGone = happens(d.gone);
  if (isGone) goes(3 * 3_600_000, 6);
  if (isGone && happens(0.5)) {
    // Back after hours she looks at the screen, and says so where it shows something else.
    bench.shows(clock());
    bench.go(plan.id);
    bench.choose(action.patch.code, clock());
    goes(SEC, 1);
  }
  let record = bench.press(clock());
  // A press that did not count made her look; she says which piece it was.
  for (let tries = 0; !record && tries < 6; tries++) {
    goes(SEC, 1);
    // A press may have led to the bench of another trial.
    bench.go(plan.id);
    const shown = bench.shows(clock());
    const its = shown.action;
    const isIt =
      its.kind !== 'finished' &&
      `${its.patch.code} ${its.link.step.id} ${its.link.round}` === meant &&
      !bench.isElsewhere(shown);
    if (!isIt) bench.choose(action.patch.code, clock());
    goes(SEC, 1);
    record = bench.press(clock());
  }
  took(record, meant);
  if (record && happens(d.doubled)) took(bench.press(clock() + 60 + chance.whole(0, 200)), 'nothing');
  if (record && happens(d.undone)) {
    // Undo stands at the top of the bench it is of.
    bench.go(plan.id);
    bench.undo(clock() + SEC);
    goes(3 * SEC, 1);
    took(bench.press(clock()), meant);
  } else if (record && action.link.step.does !== 'mark' && happens(d.spoilt))
    bench.spoil(action.patch.code, clock());
  goes(500, 1);
  return clock();
}
