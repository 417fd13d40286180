import { bad, good, type Outcome, type Progress } from '../../outcome/index.ts';
import { type Chance, chanceFrom } from '../../random/index.ts';
import { lowerBound } from './bound.ts';
import {
  asSchedule,
  costOf,
  emptyState,
  insert,
  offOf,
  PLAIN_TASTE,
  remove,
  renamed,
  type State,
  type Taste,
} from './state.ts';
import type { Job, Schedule, Workload } from './workload.ts';

export interface Search {
  /** How many times a part is taken out and put in anew. */
  readonly rounds: number;
  readonly seed: number;
}

const QUEUED: Taste = { ...PLAIN_TASTE, queued: true };

/** Searching stops when no schedule can be better by more than this share. */
const GOOD_ENOUGH = 1e-4;

/**
 * Finds a start for every action so that no window is broken, no hands do two things at once, places hold what they
 * hold, and turns are kept; as short as it can and as near to every aim as it can: cost = time to the end + what
 * starts are off their aims. Jobs are put in one after the other, then some are taken out and put in anew as long as
 * that makes it cheaper (large neighbourhood search, Shaw 1998). The same problem and seed give the same schedule.
 * Fails with the job that did not fit (`job ID`) when no order that was tried could place them all.
 */
export function solve(problem: Workload, search: Search, tell: Progress = () => {}): Outcome<Schedule> {
  const chance = chanceFrom(search.seed);
  const bound = lowerBound(problem);
  // Among equals what keeps to its aims.
  const worth = (state: State) => costOf(state, problem.now) + 1e-3 * offOf(state);
  const started = firstState(problem, chance, worth);
  if (!started.ok) return started;
  let best = started.value;
  let bestCost = worth(best);
  let current = best;
  let cost = bestCost;
  for (let round = 0; round < search.rounds && bestCost > bound * (1 + GOOD_ENOUGH) + 1; round++) {
    if (round % 25 === 0) tell(round / search.rounds, 'Looking for a better order');
    const taken = pick(problem, current, chance);
    const next = putBack(problem, remove(current, new Set(taken.map(j => j.id))), taken, chance);
    if (!next) continue;
    const nextCost = worth(next);
    // Now and then a little worse is taken, so as not to be caught; less and less of that.
    const patience = 0.02 * bestCost * (1 - round / search.rounds) * chance.next() ** 2;
    if (nextCost > cost + patience) continue;
    current = next;
    cost = nextCost;
    if (cost < bestCost - 1e-6) [best, bestCost] = [current, cost];
  }
  tell(1, 'Done');
  const done = search.rounds ? polished(problem, best, worth) : best;
  return good(asSchedule(problem, untangled(problem, done), bound));
}

/** Every job taken out once, in order of time, and put in where it costs least. */
function polished(problem: Workload, state: State, worth: (state: State) => number): State {
  let best = state;
  const startOf = (job: Job) => state.placed.get(job.id)!.starts[0];
  for (const job of [...problem.jobs].sort((a, b) => startOf(a) - startOf(b))) {
    const next = insert(problem, remove(best, new Set([job.id])), job);
    if (next && worth(next) < worth(best)) best = next;
  }
  return best;
}

/**
 * Jobs that are under way and have the same still to be done, in the order of their best moments. Of two that wait for
 * the same, the one that was ready first comes first: as near to the aims as any other order, and no piece is left
 * far behind.
 */
function untangled(problem: Workload, state: State): State {
  const alike = new Map<string, Job[]>();
  for (const job of problem.jobs) {
    if (!job.first || job.turn) continue;
    const key = JSON.stringify([
      job.ops.map(op => [op.hands, op.gap, op.brush, op.place, op.batch]),
      problem.lying?.[job.id],
    ]);
    alike.set(key, [...(alike.get(key) ?? []), job]);
  }
  let now = state;
  for (const jobs of alike.values()) {
    const byAim = [...jobs].sort((a, b) => a.first!.aim - b.first!.aim || a.id.localeCompare(b.id));
    const slots = byAim.map(job => job.id).sort((a, b) => firstOf(now, a) - firstOf(now, b));
    const fits = byAim.every((job, i) => {
      const start = firstOf(now, slots[i]);
      return start >= Math.max(problem.now, job.first!.from) && start <= job.first!.to;
    });
    if (fits) now = renamed(now, new Map(slots.map((from, i) => [from, byAim[i]])), problem.now);
  }
  return now;
}

const firstOf = (state: State, job: string) => state.placed.get(job)!.starts[0];

/**
 * Every job put in: those that are under way first, by when they must go on, then by turn; where turns leave it open
 * also medium by medium, and the cheaper of the two is taken. When neither fits, other orders are tried.
 */
function firstState(problem: Workload, chance: Chance, worth: (state: State) => number): Outcome<State> {
  let stuck: Job | undefined;
  const inOrder = (jobs: readonly Job[], taste = QUEUED): State | undefined => {
    let state: State | undefined = emptyState(problem);
    for (const job of jobs) {
      const next: State | undefined = insert(problem, state, job, taste);
      stuck ??= next ? undefined : job;
      if (!next) return undefined;
      state = next;
    }
    return state;
  };
  const numbers = problem.jobs.flatMap(j => (j.turn ? [`${j.turn.queue} ${j.turn.number}`] : []));
  const isFree = new Set(numbers).size < numbers.length || numbers.length < problem.jobs.length;
  const byBrush = (a: Job, b: Job) => byUrgency(a, b) || brushOf(a).localeCompare(brushOf(b));
  const usual = [byUrgency, ...(isFree ? [byBrush] : [])]
    .flatMap(order => inOrder([...problem.jobs].sort(order)) ?? [])
    .sort((a, b) => worth(a) - worth(b))[0];
  if (usual) return good(usual);
  // Where it is tight what closes first comes as early as it can, and aims have to wait.
  const tight = inOrder([...problem.jobs].sort(byUrgency), { ...QUEUED, early: true });
  if (tight) return good(tight);
  const others: (() => readonly Job[])[] = [
    () => [...problem.jobs].sort((a, b) => under(a) - under(b) || lengthOf(b) - lengthOf(a)),
    ...Array.from({ length: 12 }, () => () => inTurns(chance.shuffle(problem.jobs))),
  ];
  for (const order of others) {
    const state = inOrder(order());
    if (state) return good(state);
  }
  return bad(`job ${stuck!.id}`, `${stuck!.id} fits nowhere.`);
}

const brushOf = (job: Job) => job.ops.map(op => op.brush ?? '').join();
const under = (job: Job) => (job.first ? 0 : 1);
const lengthOf = (job: Job) => job.ops.reduce((sum, op) => sum + op.hands + (op.gap?.min ?? 0), 0);

function byUrgency(a: Job, b: Job): number {
  return (
    under(a) - under(b) ||
    (a.first?.to ?? 0) - (b.first?.to ?? 0) ||
    (a.turn?.number ?? 0) - (b.turn?.number ?? 0)
  );
}

/** An order in which jobs of one queue stand by their turns, whatever stands between them. */
function inTurns(jobs: readonly Job[]): Job[] {
  const queues = new Map<string, Job[]>();
  for (const job of jobs)
    if (job.turn) queues.set(job.turn.queue, [...(queues.get(job.turn.queue) ?? []), job]);
  for (const queue of queues.values()) queue.sort((a, b) => a.turn!.number - b.turn!.number);
  return jobs.map(job => (job.turn ? queues.get(job.turn.queue)!.shift()! : job));
}

/** One to five jobs, those that lie near each other in time more often than others. */
function pick(problem: Workload, state: State, chance: Chance): Job[] {
  const count = 1 + Math.floor(chance.next() * Math.min(5, problem.jobs.length));
  const sorted = [...problem.jobs].sort(
    (a, b) => state.placed.get(a.id)!.starts[0] - state.placed.get(b.id)!.starts[0],
  );
  if (chance.next() < 0.3) return chance.shuffle(sorted).slice(0, count);
  const from = Math.floor(chance.next() * Math.max(1, sorted.length - count + 1));
  return sorted.slice(from, from + count);
}

function putBack(problem: Workload, state: State, taken: readonly Job[], chance: Chance): State | undefined {
  const order = chance.next() < 0.5 ? [...taken].sort(byUrgency) : inTurns(chance.shuffle(taken));
  let now: State | undefined = state;
  for (const job of order) {
    now = insert(problem, now, job, tasteFor(problem, job, chance));
    if (!now) return undefined;
  }
  return now;
}

/** Mostly what looks best at once; now and then the earliest, or waits that end off their aims, or a blurred choice. */
function tasteFor(problem: Workload, job: Job, chance: Chance): Taste {
  const what = chance.next();
  if (what < 0.4) return PLAIN_TASTE;
  return {
    early: what < 0.6,
    waits: what < 0.5 || what > 0.7 ? job.ops.map((_, k) => otherWait(problem, job, k, chance)) : [],
    blur: 0.3,
    chance: chance.next,
    queued: false,
  };
}

/** A wait just long enough for one or two actions of another patch, with a wash or without; or anything in the window; mostly the aim. */
function otherWait({ jobs, wash }: Workload, job: Job, k: number, chance: Chance): number | undefined {
  const gap = job.ops[k - 1]?.gap;
  if (k === 0 || chance.next() < 0.4) return undefined;
  if (chance.next() < 0.3)
    return gap ? Math.round(chance.between(gap.min, Math.min(gap.max, 3 * gap.aim + 1))) : undefined;
  const other = () => chance.pick(chance.pick(jobs).ops).hands;
  return other() + (chance.next() < 0.4 ? other() : 0) + (chance.next() < 0.3 ? wash : 0);
}
