import { complete } from './complete.ts';
import { type Graph, graphOf, LATEST } from './graph.ts';
import { fromNow } from './order.ts';
import type { Span } from './spans.ts';
import type { Job, Workload } from './workload.ts';

/** Orders of one job in its sittings that are looked through; its ends are rarely many. */
const ENOUGH = 400;

/**
 * A cost below which no schedule can be (ms), so that one knows how far a found one may be from the best; the largest
 * of these, each shown to hold in docs/MATHS.md. One job alone in its sittings, and what all others are off at least,
 * each alone. All hands as one pair as fast as all, that may break off (Jackson 1955, Carlier 1982): where somebody is
 * always there with waits at their aims, since to shorten one saves no more than it costs; otherwise with waits at
 * their shortest, and what each is off at least. The hands in all, with the washes and batches that cannot be saved.
 */
export function lowerBound(problem: Workload, graph: Graph = graphOf(problem)): number {
  if (!graph.nodes.length || !problem.hands.length) return 0;
  const alone = aloneOf(graph);
  const offs = alone.reduce((sum, a) => sum + (a.isShared ? 0 : a.off), 0);
  const longest = Math.max(...alone.map(a => a.cost + offs - (a.isShared ? 0 : a.off)));
  const there = problem.hands.flatMap(h => fromNow(h.there, problem.now)).sort((a, b) => a[0] - b[0]);
  const always = problem.hands.every(h => {
    const spans = fromNow(h.there, problem.now);
    return spans.length === 1 && spans[0][0] === 0 && spans[0][1] >= LATEST;
  });
  const soonest = oneMachine(headsAndTails(graph, false), there, problem.hands.length) + offs;
  if (!always || alone.some(a => a.isShared)) return Math.max(longest, soonest);
  const aims = headsAndTails(graph, true);
  const setups = setupsOf(graph);
  const inAll =
    Math.min(...aims.map(h => h.from)) +
    (aims.reduce((sum, h) => sum + h.hands, 0) + setups) / problem.hands.length +
    Math.min(...aims.map(h => h.tail));
  return Math.max(longest, soonest, oneMachine(aims, there, problem.hands.length), inAll);
}

/** What one job would come to, were it the only one. */
export interface Alone {
  /** The least it can cost, and be off its aims, ms; 0 where that is not known. */
  readonly cost: number;
  readonly off: number;
  /** When its actions would start at that cost, ms from now on; nothing where it is not known. */
  readonly starts?: readonly number[];
  readonly isShared: boolean;
}

/** For each job, were it the only one: the least it can cost, and be off, and when. Jobs that are alike are looked at once. */
export function aloneOf({ problem, nodes, chains }: Graph): Alone[] {
  const known = new Map<string, Omit<Alone, 'isShared'>>();
  return problem.jobs.map((job, j) => {
    const key = JSON.stringify([job.first, job.ops.map(({ hands, gap }) => [hands, gap])]);
    const found = known.get(key) ?? least(problem, job);
    known.set(key, found);
    return { ...found, isShared: chains[j].some(node => nodes[node].of.length > 1) };
  });
}

function least(problem: Workload, { id, ops, first }: Job): Omit<Alone, 'isShared'> {
  const bare: Job = {
    id,
    ops: ops.map(op => ({ id: op.id, hands: op.hands, ...(op.gap ? { gap: op.gap } : {}) })),
    ...(first ? { first } : {}),
  };
  const alone = graphOf({ ...problem, jobs: [bare], places: {}, lying: {}, wash: 0 });
  // Given up or impossible: nothing is known, which is what 0 says.
  const best = complete(alone, 'cost', ENOUGH);
  return {
    cost: best?.least ?? 0,
    off: complete(alone, 'off', ENOUGH)?.least ?? 0,
    ...(best?.slots ? { starts: best.slots.map(slot => slot.at) } : {}),
  };
}

interface Head {
  readonly from: number;
  readonly hands: number;
  readonly tail: number;
}

/** When each action can start at the earliest and what comes after its end at least, ms, with waits at their aims or at their shortest. */
function headsAndTails({ nodes, waits }: Graph, atAims: boolean): Head[] {
  const from = nodes.map(node => (atAims ? (node.aim ?? node.from) : node.from));
  const tail = nodes.map(() => 0);
  const long = (w: Graph['waits'][number]) => (atAims ? Math.max(w.min, w.aim ?? 0) : w.min);
  // Waits stand in the order of their jobs' actions; with actions shared between jobs it takes some rounds.
  for (let changed = true; changed; ) {
    changed = false;
    for (const w of waits) {
      const at = from[w.before] + nodes[w.before].hands + long(w);
      if (at > from[w.after]) [from[w.after], changed] = [at, true];
    }
    for (const w of [...waits].reverse()) {
      const rest = long(w) + nodes[w.after].hands + tail[w.after];
      if (rest > tail[w.before]) [tail[w.before], changed] = [rest, true];
    }
  }
  return nodes.map((node, i) => ({ from: from[i], hands: node.hands, tail: tail[i] }));
}

/** Washes and batches that no order can save, ms of hands. */
function setupsOf({ nodes, problem }: Graph): number {
  const brushes = new Set(nodes.flatMap(node => node.brush ?? []));
  const given = new Set(problem.hands.flatMap(h => h.brush ?? []));
  const clean = problem.hands.filter(h => h.brush === undefined).length;
  const washes = Math.max(0, [...brushes].filter(b => !given.has(b)).length - clean);
  const users = new Map<string, { count: number; serves: number; make: number }>();
  for (const { batch } of nodes)
    if (batch) users.set(batch.key, { ...batch, count: (users.get(batch.key)?.count ?? 0) + 1 });
  let makes = 0;
  for (const [key, { count, serves, make }] of users) {
    const left =
      problem.made?.filter(m => m.batch.key === key).reduce((sum, m) => sum + m.batch.serves - m.used, 0) ??
      0;
    makes += Math.max(0, Math.ceil((count - left) / serves)) * make;
  }
  return washes * problem.wash + makes;
}

/** Jackson's preemptive schedule: always work on what has the longest tail; the latest end plus tail is the bound. */
function oneMachine(ops: readonly Head[], there: readonly Span[], speed: number): number {
  const waiting = [...ops].sort((a, b) => a.from - b.from);
  const open: { left: number; tail: number }[] = [];
  let time = 0;
  let bound = 0;
  let s = 0;
  let w = 0;
  while (w < waiting.length || open.length) {
    while (s < there.length && there[s][1] <= time) s++;
    if (s >= there.length) return bound;
    time = Math.max(time, there[s][0]);
    while (w < waiting.length && waiting[w].from <= time) {
      const { hands: left, tail } = waiting[w++];
      open.push({ left: left / speed, tail });
    }
    if (!open.length) {
      time = waiting[w].from;
      continue;
    }
    const job = open.reduce((a, b) => (b.tail > a.tail ? b : a));
    const until = Math.min(time + job.left, waiting[w]?.from ?? Number.POSITIVE_INFINITY, there[s][1]);
    job.left -= until - time;
    time = until;
    if (job.left <= 1e-9) {
      open.splice(open.indexOf(job), 1);
      bound = Math.max(bound, time + job.tail);
    }
  }
  return bound;
}
