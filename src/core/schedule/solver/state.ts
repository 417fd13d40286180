import { Calendar } from './hands.ts';
import { ALWAYS, before, meet, nearest, type Span, type Spans, tidySpans, within, without } from './spans.ts';
import type { Job, Made, Schedule, Workload } from './workload.ts';

/** Where one job's actions stand in a schedule that is being made. */
export interface Placed {
  readonly starts: readonly number[];
  readonly off: number;
  readonly end: number;
}

/** A schedule that is being made: which jobs are in it and when. Never changed; every change gives a new one. */
export interface State {
  readonly placed: ReadonlyMap<string, Placed>;
  readonly calendars: readonly Calendar[];
  readonly made: ReadonlyMap<number, Made>;
  readonly batches: number;
  /** Batches that were made before. */
  readonly given: ReadonlyMap<number, Made>;
}

export const emptyState = (problem: Workload): State => ({
  placed: new Map(),
  calendars: problem.hands.map(h => new Calendar(h.there, [], problem.wash, h.brush)),
  made: new Map(problem.made?.map((m, i) => [i, m])),
  batches: problem.made?.length ?? 0,
  given: new Map(problem.made?.map((m, i) => [i, m])),
});

export const endOf = (state: State, now: number): number =>
  [...state.placed.values()].reduce((end, p) => Math.max(end, p.end), now);
export const offOf = (state: State): number => [...state.placed.values()].reduce((sum, p) => sum + p.off, 0);
export const costOf = (state: State, now: number): number => endOf(state, now) - now + offOf(state);

/** How a job is put in: a search has to try other ways than the one that looks best at once. */
export interface Taste {
  /** The earliest start of its first action comes before what costs least. */
  readonly early: boolean;
  /** How long to wait before each action in place of its aim, ms; nothing for the aim. */
  readonly waits: readonly (number | undefined)[];
  /** How far, as a share, costs are blurred when starts are compared; with whose chance. */
  readonly blur: number;
  readonly chance: () => number;
  /** Others of its queue are still to be put in after it. */
  readonly queued: boolean;
}
export const PLAIN_TASTE: Taste = { early: false, waits: [], blur: 0, chance: () => 0, queued: false };

/** How many starts of a job's first action are looked at. */
const CHOICES = 10;

/**
 * The schedule with one more job: every action within its window, hands and places free for it. Exact feasible sets
 * are worked out from the last action back, so a job is refused only when it fits nowhere. Of some starts the one
 * is taken that adds least to the cost, the earlier of equals. Nothing when it does not fit.
 */
export function insert(problem: Workload, state: State, job: Job, taste = PLAIN_TASTE): State | undefined {
  const sets = feasibleSets(problem, state, job);
  if (!sets) return undefined;
  const endNow = endOf(state, problem.now);
  const found = firstStarts(problem, job, sets).flatMap(start => {
    const chain = follow(problem, job, sets, start, taste);
    if (!chain) return [];
    const cost = chain.off + Math.max(0, chain.end - endNow);
    // Among equals what keeps to its aims, then what is early.
    // Whatever begins after it in its queue cannot begin sooner: being late costs them all.
    const holdsUp = taste.queued && job.turn ? start - problem.now : 0;
    const even = chain.off * 2e-3 + (chain.end - problem.now) * 1e-3;
    const ranked = taste.early ? start : (cost + even + holdsUp) * (1 + taste.blur * taste.chance());
    return [{ ...chain, ranked }];
  });
  found.sort((a, b) => a.ranked - b.ranked);
  for (const chain of found) {
    const next = commit(problem, state, job, sets, chain);
    if (next) return next;
  }
  return undefined;
}

interface Sets {
  /** For every action, the moments at which it can start so that all later ones can follow. */
  readonly at: readonly Spans[];
  /** Those of them at which a batch has to be made right before. */
  readonly making: readonly Spans[];
  /** For every action that takes a place: stretches in which that place has room. */
  readonly room: readonly (Spans | undefined)[];
}

/** From the last action back: what is free for it, and from where the next one can be reached in time. */
export function feasibleSets(problem: Workload, state: State, job: Job): Sets | undefined {
  const at = new Array<Spans>(job.ops.length);
  const plain = new Array<Spans>(job.ops.length);
  const making = new Array<Spans>(job.ops.length);
  const room = job.ops.map(op => (op.place ? roomIn(problem, state, op.place, job.id) : undefined));
  for (let k = job.ops.length - 1; k >= 0; k--) {
    const op = job.ops[k];
    const limits: Spans[] = [];
    if (k === 0 && job.first) limits.push([[Math.max(problem.now, job.first.from), job.first.to]]);
    if (k === 0) limits.push(outOf(problem, state, job));
    if (job.turn?.begins === k) limits.push(turnOf(problem, state, job));
    if (k < job.ops.length - 1) limits.push(reaching(problem, job, k, plain[k + 1], making[k + 1], room[k]));
    else if (room[k])
      limits.push(room[k]!.flatMap(([a, b]): Span[] => (b - a >= op.hands ? [[a, b - op.hands]] : [])));
    const limit = limits.reduce(meet, ALWAYS);
    const free = state.calendars.map(calendar => calendar.free(op, problem.now, state.made));
    plain[k] = meet(tidySpans(free.flatMap(f => f.plain)), limit);
    making[k] = op.batch ? meet(tidySpans(free.flatMap(f => f.making)), limit) : [];
    at[k] = tidySpans([...plain[k], ...making[k]]);
    if (!at[k].length) return undefined;
  }
  return { at, making, room };
}

/** Shortest time from the start of action `k` to the next: its hands, its wait, and what has to be washed or made between. */
function leastAfter({ hands, wash }: Workload, job: Job, k: number, makes: boolean): number {
  const op = job.ops[k];
  const next = job.ops[k + 1];
  let between = op.gap?.min ?? 0;
  if (hands.length === 1) {
    const washes = op.brush && next.brush && op.brush !== next.brush ? wash : 0;
    between = Math.max(between, washes + (makes ? (next.batch?.make ?? 0) : 0));
  }
  return op.hands + between;
}

/** Moments from which the next action can be reached in time, without leaving the place it lies in. */
function reaching(
  problem: Workload,
  job: Job,
  k: number,
  plain: Spans,
  making: Spans,
  room: Spans | undefined,
): Spans {
  const op = job.ops[k];
  const most = op.gap ? op.hands + op.gap.max : Number.POSITIVE_INFINITY;
  const from = (spans: Spans, makes: boolean) => {
    const least = leastAfter(problem, job, k, makes);
    return least > most ? [] : before(spans, least, most);
  };
  const both = (p: Spans, m: Spans) => tidySpans([...from(p, false), ...from(m, true)]);
  if (!room) return both(plain, making);
  return tidySpans(
    room.flatMap(part => within(both(within(plain, ...part), within(making, ...part)), ...part)),
  );
}

/** What lies in a place has to come out before that place is full without it. */
function outOf(problem: Workload, state: State, job: Job): Spans {
  const place = problem.lying?.[job.id];
  if (!place) return ALWAYS;
  const room = roomIn(problem, state, place, job.id);
  return room
    .filter(([a, b]) => a <= problem.now && problem.now <= b)
    .map(([, b]) => [problem.now, b] as const);
}

/** Between the turns of the jobs before and after it in its queue. */
function turnOf(problem: Workload, state: State, job: Job): Spans {
  let from = Number.NEGATIVE_INFINITY;
  let to = Number.POSITIVE_INFINITY;
  for (const other of problem.jobs) {
    const placed = other.turn?.queue === job.turn!.queue ? state.placed.get(other.id) : undefined;
    if (!placed) continue;
    const start = placed.starts[other.turn!.begins];
    if (other.turn!.number < job.turn!.number) from = Math.max(from, start);
    if (other.turn!.number > job.turn!.number) to = Math.min(to, start);
  }
  return from <= to ? [[from, to]] : [];
}

/** The stretches in which a place has room for one more, not counting the job itself. */
function roomIn(problem: Workload, state: State, place: string, self: string): Spans {
  const holds = problem.places[place] ?? Number.POSITIVE_INFINITY;
  const changes: { at: number; by: number }[] = [];
  const taken = (from: number, to: number) => changes.push({ at: from, by: 1 }, { at: to, by: -1 });
  for (const job of problem.jobs) {
    const starts = state.placed.get(job.id)?.starts;
    if (job.id === self) continue;
    if (problem.lying?.[job.id] === place) taken(problem.now, starts?.[0] ?? Number.MAX_SAFE_INTEGER);
    if (!starts) continue;
    job.ops.forEach((op, k) => {
      if (op.place === place) taken(starts[k], starts[k + 1] ?? starts[k] + op.hands);
    });
  }
  changes.sort((a, b) => a.at - b.at || a.by - b.by);
  const full: Span[] = [];
  let inside = 0;
  changes.forEach((change, i) => {
    inside += change.by;
    const next = changes[i + 1];
    if (inside >= holds && next && next.at > change.at) full.push([change.at, next.at]);
  });
  return without(ALWAYS, full);
}

/** Starts of the first action that are worth a look: its best moment, the earliest ones, and those from which the second hits its aim. */
function firstStarts(problem: Workload, job: Job, { at }: Sets): number[] {
  const starts = new Set<number>();
  const aim = job.first?.aim;
  if (aim !== undefined) starts.add(nearest(at[0], aim)!);
  for (const [from] of at[0].slice(0, CHOICES)) starts.add(Math.max(from, problem.now));
  const [first, second] = job.ops;
  if (second && first.gap) {
    const reach = first.hands + first.gap.aim;
    for (const [from, to] of at[1].slice(0, CHOICES))
      for (const edge of [from - reach, to - reach]) {
        const found = nearest(at[0], edge);
        if (found !== undefined && Number.isFinite(found)) starts.add(found);
      }
  }
  return [...starts];
}

/** How far a moment is from what it should be: nothing between the aim and the latest that is as good. */
const offBy = (at: number, aim: number, until = aim): number =>
  Math.max(0, aim - at, at - Math.max(aim, until));

/** What a second of being later counts where later is as good: enough not to dawdle, too little to come too soon for. */
const DAWDLING = 0.2;

/** The moment in `spans` nearest to the aim, or, where later is as good, soon after it. */
function towardsAim(spans: Spans, aim: number, until: number): number | undefined {
  const near = nearest(spans, aim);
  if (near === undefined || near >= aim || until <= aim) return near;
  const [later] = within(spans, aim, until);
  return later && (later[0] - aim) * DAWDLING < aim - near ? later[0] : near;
}

/** From a start of the first action on, each next one as near to its aim as it can be. */
function follow(problem: Workload, job: Job, { at, making, room }: Sets, first: number, taste: Taste) {
  const starts = [first];
  let off = job.first ? offBy(first, Math.max(problem.now, job.first.aim), job.first.until) : 0;
  for (let k = 1; k < job.ops.length; k++) {
    const { hands, gap } = job.ops[k - 1];
    const from = starts[k - 1];
    const aim = from + hands + (gap?.aim ?? 0);
    const latest = gap ? from + hands + gap.max : Number.POSITIVE_INFINITY;
    const part = room[k - 1]?.find(([a, b]) => a <= from && from <= b);
    if (room[k - 1] && !part) return undefined;
    const inTime = (spans: Spans, makes: boolean) => {
      const reach = within(spans, from + leastAfter(problem, job, k - 1, makes), latest);
      return part ? within(reach, ...part) : reach;
    };
    const plain = job.ops[k].batch ? without(at[k], making[k]) : at[k];
    const wait = taste.waits[k];
    const towards = wait === undefined ? aim : from + hands + wait;
    const until = from + hands + (gap?.until ?? gap?.aim ?? 0);
    const start = towardsAim(
      tidySpans([...inTime(plain, false), ...inTime(making[k], true)]),
      towards,
      Math.max(until, towards),
    );
    if (start === undefined) return undefined;
    if (gap) off += offBy(start, aim, until);
    starts.push(start);
  }
  const last = job.ops[job.ops.length - 1];
  return { starts, off, end: starts[starts.length - 1] + last.hands };
}

/**
 * Puts every action on a calendar. A start that the job's own washes and batches have taken is moved to the nearest one
 * that is left in its window. Nothing when none is.
 */
function commit(problem: Workload, state: State, job: Job, sets: Sets, planned: Placed): State | undefined {
  const calendars = [...state.calendars];
  const made = new Map(state.made);
  let { batches } = state;
  const starts: number[] = [];
  let off = 0;
  for (const [k, op] of job.ops.entries()) {
    const free = calendars.map(calendar => calendar.free(op, problem.now, made));
    const wanted = aimOf(problem, job, k, starts[k - 1]);
    const isFree = (at: number) => free.some(f => holds(f.plain, at) || holds(f.making, at));
    let start = planned.starts[k];
    if (start < wanted.from || start > wanted.to || !isFree(start)) {
      const left = meet(
        tidySpans(free.flatMap(f => [...f.plain, ...f.making])),
        within(roomFor(sets, k, starts[k - 1]), wanted.from, wanted.to),
      );
      const moved = nearest(left, start);
      if (moved === undefined) return undefined;
      start = moved;
    }
    const h = free.findIndex(f => holds(f.plain, start) || holds(f.making, start));
    const isPlain = holds(free[h].plain, start);
    let batch: number | undefined;
    if (op.batch && isPlain) {
      for (const [id, m] of made)
        if (m.batch.key === op.batch.key && m.used < m.batch.serves && m.ready <= start && start <= m.until)
          batch = id;
      made.set(batch!, { ...made.get(batch!)!, used: made.get(batch!)!.used + 1 });
    } else if (op.batch) {
      batch = batches++;
      made.set(batch, { batch: op.batch, ready: start, until: start + op.batch.lasts, used: 1 });
    }
    calendars[h] = calendars[h].put(op, start, {
      job: job.id,
      op: k,
      ...(batch === undefined ? {} : { batch }),
      making: !isPlain,
    });
    if (wanted.aim !== undefined) off += offBy(start, wanted.aim, wanted.until);
    starts.push(start);
  }
  const end = starts[starts.length - 1] + job.ops[job.ops.length - 1].hands;
  return {
    placed: new Map(state.placed).set(job.id, { starts, off, end }),
    calendars,
    made,
    batches,
    given: state.given,
  };
}

/** When action `k` may and should start, after the one before it. */
function aimOf(problem: Workload, job: Job, k: number, last: number | undefined) {
  if (last === undefined) {
    const { first } = job;
    return first
      ? {
          from: Math.max(problem.now, first.from),
          to: first.to,
          aim: Math.max(problem.now, first.aim),
          until: first.until,
        }
      : { from: problem.now, to: Number.POSITIVE_INFINITY, aim: undefined, until: undefined };
  }
  const { hands, gap } = job.ops[k - 1];
  const end = last + hands;
  return gap
    ? { from: end + gap.min, to: end + gap.max, aim: end + gap.aim, until: end + (gap.until ?? gap.aim) }
    : { from: end, to: Number.POSITIVE_INFINITY, aim: undefined, until: undefined };
}

/** The feasible starts of an action without leaving the place it lies in since the last one. */
function roomFor({ at, room }: Sets, k: number, last: number | undefined): Spans {
  const where = k > 0 && last !== undefined ? room[k - 1] : undefined;
  if (!where) return at[k];
  const part = where.find(([a, b]) => a <= last! && last! <= b);
  return part ? within(at[k], ...part) : [];
}

const holds = (spans: Spans, at: number) => spans.some(([a, b]) => a <= at && at <= b);

/** The schedule with what stands for one job given to another that has the same to do: by the old id the job that takes its place. */
export function renamed(state: State, to: ReadonlyMap<string, Job>, now: number): State {
  const placed = new Map(state.placed);
  for (const [from, job] of to) {
    const { starts, end } = state.placed.get(from)!;
    placed.set(job.id, { starts, end, off: offOfStarts(job, starts, now) });
  }
  return {
    ...state,
    placed,
    calendars: state.calendars.map(c => c.renamed(id => to.get(id)?.id ?? id)),
  };
}

/** How far starts of a job are off its aims, ms. */
function offOfStarts({ first, ops }: Job, starts: readonly number[], now: number): number {
  const begins = first ? offBy(starts[0], Math.max(now, first.aim), first.until) : 0;
  return ops.slice(1).reduce((sum, _, i) => {
    const { hands, gap } = ops[i];
    const end = starts[i] + hands;
    return gap ? sum + offBy(starts[i + 1], end + gap.aim, end + (gap.until ?? gap.aim)) : sum;
  }, begins);
}

/** The schedule without some jobs. */
export function remove(state: State, jobs: ReadonlySet<string>): State {
  const made = new Map(state.made);
  for (const calendar of state.calendars)
    for (const item of calendar.items)
      if (item.what === 'op' && item.batch !== undefined && jobs.has(item.job!)) {
        const m = made.get(item.batch)!;
        const before = state.given.get(item.batch)?.used ?? 0;
        if (m.used > Math.max(1, before)) made.set(item.batch, { ...m, used: m.used - 1 });
        else if (state.given.has(item.batch)) made.set(item.batch, { ...m, used: before });
        else made.delete(item.batch);
      }
  const kept = new Set(made.keys());
  return {
    placed: new Map([...state.placed].filter(([id]) => !jobs.has(id))),
    calendars: state.calendars.map(c => c.drop(jobs, kept)),
    made,
    batches: state.batches,
    given: state.given,
  };
}

/** What a finished state is as a schedule. */
export function asSchedule(problem: Workload, state: State, bound: number): Schedule {
  return {
    starts: problem.jobs.map(job => state.placed.get(job.id)!.starts),
    busy: state.calendars.map(c => c.items),
    end: endOf(state, problem.now),
    off: offOf(state),
    cost: costOf(state, problem.now),
    bound,
    washes: state.calendars.reduce((n, c) => n + c.items.filter(i => i.what === 'wash').length, 0),
  };
}
