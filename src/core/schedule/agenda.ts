import { bad, good, type Outcome, type Progress } from '../outcome/index.ts';
import type { Trialled } from '../progress/index.ts';
import { many, span, write } from '../say/index.ts';
import { expectedIn, type TrialPlan, type TrialRecord } from '../trial/index.ts';
import type { Working } from './sittings.ts';
import { type Schedule, type Search, solve, type Workload, whyNot } from './solver/index.ts';
import { type EndsAt, HELD, type Task, type TrialWorkload, workloadOfAll } from './workload-of.ts';

/** One action at its planned time, ms. */
export interface Appointment extends Task {
  readonly from: number;
  readonly to: number;
  /** When it may, should and must start; nothing when it may come at any time. */
  readonly window?: { readonly opens: number; readonly aim: number; readonly closes: number };
  /** Whose hands. */
  readonly who: string;
}

/** A trial's work laid out in time. */
export interface Agenda {
  /** In order of time. */
  readonly tasks: readonly Appointment[];
  /** Washing the brush and mixing, between them. */
  readonly extras: readonly { readonly from: number; readonly to: number; readonly what: 'wash' | 'make' }[];
  readonly ends: number;
  readonly handsMin: number;
  /** By how much, at most, another schedule could be shorter or nearer to the aims: a share of its cost. */
  readonly couldBeBetter: number;
  /** Patches whose window is closed already. */
  readonly late: readonly string[];
}

/** Rounds of search: a quick look after every press, a thorough one when there is time. */
export const QUICK: Search = { rounds: 0, seed: 7, prove: 2 };
export const THOROUGH: Search = { rounds: 250, seed: 7 };

/**
 * Lays out what is left of a trial from `now` (ms) on for the hands and times of `working`. Fails with `no-time`, the
 * window that cannot be kept and what would make it fit, where that is proved; with `none-yet` where no plan was found
 * and there may be one.
 *
 * @example agendaOf(plan, [], { sittings: [], helpers: 0, ovenHolds: null, rackHolds: null, trayHolds: null, washMin: null, order: 'plan' }, start).ok; // => true
 */
export const agendaOf = (
  plan: TrialPlan,
  records: readonly TrialRecord[],
  working: Working,
  now: number,
  search = QUICK,
  options: { hereUntil?: number; tell?: Progress } = {},
): Outcome<Agenda> => agendaOfAll([{ plan, records }], working, now, search, options);

/** The work of several trials for the same hands; see {@link agendaOf}. */
export function agendaOfAll(
  trials: readonly Trialled[],
  working: Working,
  now: number,
  search = QUICK,
  { hereUntil, tell }: { hereUntil?: number; tell?: Progress } = {},
): Outcome<Agenda> {
  const endsAt = trials.some(t => expectedIn(t.records).length)
    ? endsIn(trials, working, now, hereUntil)
    : undefined;
  const asked = workloadOfAll(trials, working, now, { hereUntil, endsAt });
  // A quick look does not try hard to leave room.
  const mend = search.rounds ? undefined : 0;
  const easy = solve(withRoom(asked.problem), { ...search, mend, prove: 0 }, tell);
  const found = easy.ok ? easy : solve(asked.problem, search, tell);
  if (found.ok) return good(agendaFrom(asked, found.value));
  const { code, job: stuck = '' } = found.problem;
  return explained(asked, working, stuck, code === 'no-time');
}

/** So often are quick plans made for waits as they are in the air of the hours at which the plan before had them. */
const SETTLES = 3;

/** When each action ends where other air is expected: how long a wait is depends on when it begins, and that on the waits. */
function endsIn(
  trials: readonly Trialled[],
  working: Working,
  now: number,
  hereUntil: number | undefined,
): EndsAt | undefined {
  let endsAt: EndsAt | undefined;
  for (let i = 0; i < SETTLES; i++) {
    const asked = workloadOfAll(trials, working, now, { hereUntil, endsAt });
    const found = solve(asked.problem, { ...QUICK, mend: 0, prove: 0 });
    if (!found.ok) return endsAt;
    const name = (trial: string, patch: string, { step, round }: Task['link']) =>
      `${trial} ${patch} ${step.id} ${round}`;
    const ends = new Map(
      agendaFrom(asked, found.value).tasks.map(t => [name(t.trial, t.patch, t.link), t.to]),
    );
    endsAt = (trial, patch, link) => ends.get(name(trial, patch, link));
  }
  return endsAt;
}

/** How often a search is begun anew where no plan was found and there may be one. */
const TRIES = 8;

/**
 * A thorough search for a plan of several trials; where none was found that keeps every window and none was ruled out,
 * it looks on, each time from another beginning. Fails as {@link agendaOf} does.
 *
 * @example agendaAtLast([{ plan, records: [] }], { sittings: [], helpers: 0, ovenHolds: null, rackHolds: null, trayHolds: null, washMin: null, order: 'plan' }, start, () => {}, { rounds: 5, seed: 1 }).ok; // => true
 */
export function agendaAtLast(
  trials: readonly Trialled[],
  working: Working,
  now: number,
  tell: Progress = () => {},
  search = THOROUGH,
): Outcome<Agenda> {
  const look = (i: number) =>
    agendaOfAll(
      trials,
      working,
      now,
      { ...search, seed: search.seed + i },
      {
        // The first search is what usually is enough; what comes after it shows as the rest.
        tell: (done, what) => tell(i ? 0.5 + (0.5 * (i - 1 + done)) / (TRIES - 1) : done, what),
      },
    );
  let found = look(0);
  for (let i = 1; i < TRIES && !found.ok && found.problem.code === 'none-yet'; i++) found = look(i);
  return found;
}

/** Share of the time between the aim and the end of a window that is kept free: hands are slower than a plan. */
const ROOM = 0.25;

/** The same work with its windows ending a little sooner, so that a plan is not upset by the first small delay. */
function withRoom(problem: Workload): Workload {
  const sooner = (aim: number, end: number) => Math.round(end - ROOM * Math.max(0, end - aim));
  return {
    ...problem,
    jobs: problem.jobs.map(job => ({
      ...job,
      ...(job.first
        ? {
            first: {
              ...job.first,
              to: Math.max(problem.now, job.first.from, sooner(job.first.aim, job.first.to)),
            },
          }
        : {}),
      ops: job.ops.map(op =>
        op.gap ? { ...op, gap: { ...op.gap, max: sooner(op.gap.aim, op.gap.max) } } : op,
      ),
    })),
  };
}

function agendaFrom({ problem, tasks, late }: TrialWorkload, schedule: Schedule): Agenda {
  const all = problem.jobs.flatMap((job, j) => {
    const named = tasks.get(job.id)!;
    const starts = schedule.starts[j];
    const whose = (k: number) => problem.hands[schedule.who[j][k]].name;
    // What is held already is under way and no task any more.
    const skip = job.ops[0].id === HELD ? 1 : 0;
    // The marking of all pieces is one job: its pieces follow one another.
    if (named.length > job.ops.length - skip) return inARow(named, starts[0], whose(0));
    return job.ops.slice(skip).map((op, i): Appointment => {
      const k = i + skip;
      const before = job.ops[k - 1];
      const window = before ? windowAfter(before, starts[k - 1]) : firstWindow(job.first);
      return {
        ...named[i],
        from: starts[k],
        to: starts[k] + op.hands,
        who: whose(k),
        ...(window ? { window } : {}),
      };
    });
  });
  const bestKnown = schedule.cost || 1;
  return {
    tasks: all.sort((a, b) => a.from - b.from || a.to - b.to),
    extras: schedule.busy
      .flat()
      .flatMap(({ from, to, what }) => (what === 'op' ? [] : [{ from, to, what }]))
      .sort((a, b) => a.from - b.from),
    ends: schedule.end,
    handsMin: schedule.busy
      .flat()
      .reduce((sum, b) => sum + (b.what === 'op' ? (b.to - b.from) / 60_000 : 0), 0),
    couldBeBetter: Math.max(0, (schedule.cost - schedule.bound) / bestKnown),
    late,
  };
}

function inARow(tasks: readonly Task[], start: number, who: string): Appointment[] {
  let at = start;
  return tasks.map(task => {
    const from = at;
    at += task.link.step.handsOnMin * 60_000;
    return { ...task, from, to: at, who };
  });
}

const windowAfter = (op: Workload['jobs'][number]['ops'][number], start: number) =>
  op.gap && {
    opens: start + op.hands + op.gap.min,
    aim: start + op.hands + op.gap.aim,
    closes: start + op.hands + op.gap.max,
  };
const firstWindow = (first: Workload['jobs'][number]['first']) =>
  first && { opens: first.from, aim: first.aim, closes: first.to };

/** Which window cannot be kept, or was not yet, and what would make it fit: only what was tried and does. */
function explained(
  { problem, tasks }: TrialWorkload,
  working: Working,
  stuck: string,
  isProved: boolean,
): Outcome<never> {
  // What is not ruled out may fit as it is: nobody is told to change anything for a search that is not done.
  if (!isProved)
    return bad(
      'none-yet',
      `No plan that keeps every window was found yet; the hardest to place is ${tasks.get(stuck)![0].patch}. There may be one.`,
      'Look on, or give it other times or another pair of hands.',
    );
  const { windows, fewer, helper, otherOrder, otherTimes } = whyNot(problem, stuck);
  const job = problem.jobs.find(j => j.id === stuck)!;
  const named = tasks.get(stuck)!;
  const tight = windows[0] && job.ops.findIndex(op => op.id === windows[0].after);
  const skip = job.ops[0].id === HELD ? 1 : 0;
  const gap = tight === undefined ? undefined : job.ops[tight].gap;
  const which =
    gap && tight !== undefined
      ? `${named[0].patch}: the wait after “${named[Math.max(0, tight - skip)].link.step.action}” may be ${span(gap.min / 60_000)} to ${span(gap.max / 60_000)}, and no hands are there then.`
      : `${named[0].patch} has no time left in which its steps fit one after the other.`;
  const ways = [
    ...(otherTimes && working.sittings.length ? ['be there at other times'] : []),
    ...(fewer > 0 ? [`begin only ${write(many(fewer, 'patch'))} in this sitting`] : []),
    ...(helper ? ['find a helper'] : []),
    ...(otherOrder && working.order === 'plan' ? ['let the order be free'] : []),
  ];
  const wayOut = ways.length ? `What would make it fit: ${ways.join(', or ')}.` : undefined;
  return bad('no-time', which, wayOut);
}
