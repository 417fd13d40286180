import { bad, good, type Outcome, type Progress } from '../../outcome/index.ts';
import { type Chance, chanceFrom } from '../../random/index.ts';
import { aloneOf, lowerBound } from './bound.ts';
import { complete } from './complete.ts';
import { dispatch, type Manner } from './dispatch.ts';
import { type Graph, graphOf } from './graph.ts';
import { improve } from './improve.ts';
import { Order, type Slot } from './order.ts';
import type { Schedule, Workload } from './workload.ts';

export interface Search {
  /** How long is searched: 250 are about two seconds, whatever the size. */
  readonly rounds: number;
  readonly seed: number;
  /** Of how many jobs together it is worked out, when nothing was found, that nothing fits; of all without it. */
  readonly prove?: number;
  /** Rounds that are spent to mend a first order that breaks windows; without it what is usual. */
  readonly mend?: number;
}

/** Pivots and looks of a round: so many for each action, and no more than so many. */
const ROUND = { each: 2400, most: 2.25e5 };
const roundOf = ({ nodes }: Graph) => Math.min(ROUND.most, ROUND.each * nodes.length);
/** What is spent, in rounds, to mend a first order that breaks windows: in a quick look, and in a search. */
const MENDING = { quick: 12, search: 100 };
/** Searching stops when no schedule can be better by more than this share. */
const GOOD_ENOUGH = 1e-4;
/** Orders that are looked through for a proof that nothing fits. */
const PROOF = 4000;
/** How many of the first orders have their moments worked out, and from how many actions on only one of three manners. */
const FEW = 2;
const MANY = 400;

/** Of many manners those that gave the best first order of some of the workloads that plans come to. */
const MANNERS: readonly Manner[] = [
  { give: 1, eager: 0 },
  { give: 1, eager: 0.5 },
  { give: 0.5, eager: 0 },
  { give: 0.15, eager: 0.5 },
  { give: 0.15, eager: 0 },
];

/**
 * Finds a start for every action so that no window is broken, no hands do two things at once, places hold what they
 * hold, and turns are kept; as short as it can and as near to every aim as it can: cost = time to the end + what
 * starts are off their aims. First orders by playing the work through in several manners; for an order the moments
 * are the best there are ({@link Timing}); then other orders as long as `rounds` last. The same problem and seed give
 * the same schedule.
 * Fails with `job ID` when it is proved that nothing fits, the job one that cannot be placed with those around it;
 * with `none-yet ID` when none was found and none was ruled out.
 */
export function solve(problem: Workload, search: Search, tell: Progress = () => {}): Outcome<Schedule> {
  const graph = graphOf(problem);
  const chance = chanceFrom(search.seed);
  const first = firstOrder(graph, chance, search.mend ?? (search.rounds ? MENDING.search : MENDING.quick));
  if (!first)
    return bad('no-time', 'Nobody is there to do it.', undefined, { job: problem.jobs[0]?.id ?? '' });
  const rescued = first.broken > 0 ? settled(first, search) : good(first);
  if (!rescued.ok) return rescued;
  let order = rescued.value;
  const bound = lowerBound(problem, graph);
  const goal = bound * (1 + GOOD_ENOUGH) + 1;
  if (search.rounds) {
    order = improved(order, search.rounds * roundOf(graph), goal, chance, tell);
    if (graph.nodes.length <= SMALL && order.worth > goal) order = smallest(order);
  }
  untangle(order);
  return good(order.schedule(bound));
}

/** Few actions are searched from the beginning several times: a search that cools quickly ends where it happens to be. */
function improved(first: Order, work: number, goal: number, chance: Chance, tell: Progress): Order {
  const { graph } = first;
  const from = [first.saved(), ...(hasPauses(graph) ? eachAlone(first) : [])];
  const times = Math.max(from.length, Math.min(5, Math.floor(140 / graph.nodes.length)));
  first.restore(from[0]);
  let [best] = from;
  let bestRank = rank(first);
  for (let i = 0; i < times && bestRank > goal; i++) {
    first.restore(from[i % from.length]);
    improve(first, work / times, goal, chance, done =>
      tell((i + done) / times, 'Looking for a better order'),
    );
    if (rank(first) >= bestRank) continue;
    best = first.saved();
    bestRank = rank(first);
  }
  first.restore(best);
  tell(1, 'Done');
  return first;
}

/** An order in which each job falls into the sittings that would be best for it, were it the only one. */
function eachAlone(order: Order): ReturnType<Order['saved']>[] {
  const { graph } = order;
  const { nodes, chains, problem } = graph;
  const mean = nodes.reduce((sum, node) => sum + node.hands, 0) / nodes.length;
  const at = new Map<number, number>();
  aloneOf(graph).forEach(({ starts }, j) => {
    const turn = problem.jobs[j].turn?.number ?? j;
    chains[j].forEach((node, k) => {
      // Those that are alike want the same moment: one after the other, in their turns.
      if (starts) at.set(node, Math.max(at.get(node) ?? 0, starts[k] + turn * mean * 1e-3));
    });
  });
  if (at.size < nodes.length) return [];
  order.set(nodes.map((_, node) => ({ node, who: order.whoOf(node), at: at.get(node)! })));
  order.settle();
  order.settle();
  return [order.saved()];
}

/** So few actions are looked through in all orders, as far as so many looks go. */
const SMALL = 24;
const LOOKS = 3000;

/** What a search that leaves nothing out finds to be better than an order, if it does in time and one pair of hands can. */
function smallest(order: Order): Order {
  const { graph } = order;
  if (graph.problem.hands.length > 1) return order;
  const found = complete(graph, 'cost', LOOKS, order.cost);
  if (!found?.slots) return order;
  const better = ordered(graph, found.slots);
  return rank(better) < rank(order) ? better : order;
}

/** Whether somebody is away at times: then which sitting something falls into counts for more than the order in it. */
const hasPauses = ({ problem }: Graph) => problem.hands.some(h => h.there.length > 1);

/** The best of some first orders, mended where it breaks windows; nothing when there is nobody to do it. */
function firstOrder(graph: Graph, chance: Chance, mending: number): Order | undefined {
  if (graph.nodes.length && !graph.problem.hands.some(h => h.there.some(([, b]) => b > graph.problem.now)))
    return undefined;
  const isMany = graph.nodes.length > MANY;
  const tried = MANNERS.slice(0, isMany ? 3 : MANNERS.length)
    .map(manner => dispatch(graph, manner))
    .sort((a, b) => a.worth - b.worth);
  const seen = new Set<string>();
  const few = tried.filter(({ slots }) => {
    const key = slots.map(s => s.node).join();
    return !seen.has(key) && seen.add(key);
  });
  const orders: Order[] = [];
  for (const { slots } of few.slice(0, isMany ? 1 : hasPauses(graph) ? MANNERS.length : FEW)) {
    const order = ordered(graph, slots);
    orders.push(order);
  }
  orders.sort((a, b) => rank(a) - rank(b));
  const [best] = orders;
  if (!mending || !best?.broken) return best;
  const all = graph.problem.hands.length === 1 ? complete(graph, 'any', FIRST_LOOKS) : undefined;
  const found = all?.slots ? ordered(graph, all.slots) : best;
  return found.broken ? mended(orders, mending * roundOf(graph), chance) : found;
}

/** Before an order is mended so many are looked through for one that breaks nothing. */
const FIRST_LOOKS = 400;

/** How often an order that breaks windows is mended from the beginning. */
const TRIES = 6;

/** The first of some orders that breaks nothing any more, each mended in turn from where it was; else the best. */
function mended(orders: readonly Order[], work: number, chance: Chance): Order {
  const from = orders.map(order => order.saved());
  for (let i = 0; i < TRIES; i++) {
    const order = orders[i % orders.length];
    if (i >= orders.length) order.restore(from[i % orders.length]);
    improve(order, work / TRIES, Number.NEGATIVE_INFINITY, chance, undefined, true);
    if (order.broken === 0) return order;
  }
  return orders[0];
}

const rank = (order: Order) => order.worth + (order.broken > 0 ? 1e15 : 0);

function ordered(graph: Graph, slots: readonly Slot[]): Order {
  const order = new Order(graph);
  order.set(slots);
  order.settle();
  // Where washes and batches stand depends on the moments, which are known only now.
  order.settle();
  return order;
}

/**
 * Jobs that are under way and have the same still to be done, in the order of their best moments. Of two that wait for
 * the same, the one that was ready first comes first: as near to the aims as any other order, and no piece is left
 * far behind.
 */
function untangle(order: Order): void {
  const { nodes, chains, problem } = order.graph;
  const alike = new Map<string, number[]>();
  problem.jobs.forEach((job, j) => {
    if (!job.first || job.turn || chains[j].some(node => nodes[node].of.length > 1)) return;
    const key = JSON.stringify([
      job.ops.map(op => [op.hands, op.gap, op.brush, op.place, op.tool, op.batch]),
      problem.lying?.[job.id],
    ]);
    alike.set(key, [...(alike.get(key) ?? []), j]);
  });
  for (const jobs of alike.values()) {
    if (jobs.length < 2) continue;
    const byAim = [...jobs].sort((a, b) => problem.jobs[a].first!.aim - problem.jobs[b].first!.aim || a - b);
    const byStart = [...jobs].sort((a, b) => order.x[chains[a][0]] - order.x[chains[b][0]] || a - b);
    if (byAim.every((j, i) => j === byStart[i])) continue;
    const kept = order.saved();
    const before = rank(order);
    order.replace(
      byAim.flatMap((j, i) =>
        chains[j].map((node, k) => ({
          node,
          who: order.whoOf(chains[byStart[i]][k]),
          at: order.x[chains[byStart[i]][k]],
        })),
      ),
    );
    order.settle();
    if (rank(order) > before + 1e-3 * before) order.restore(kept);
  }
}

/**
 * Where no order was found that breaks nothing: whether none does. Some jobs that lie near what is broken, more and
 * more of them, are looked through in all orders; what fits nowhere with a few does not fit with all. Of all together
 * an order may come out that does fit.
 */
function settled(order: Order, { prove = Number.POSITIVE_INFINITY }: Search): Outcome<Order> {
  const { problem, chains } = order.graph;
  const stuck = order.stuck();
  const { id } = problem.jobs[stuck];
  const none = bad('none-yet', 'No schedule was found yet.', undefined, { job: id });
  const spots = chains[stuck].map(node => order.x[node]);
  const distance = (job: number) =>
    job === stuck
      ? -1
      : Math.min(...chains[job].flatMap(node => spots.map(t => Math.abs(order.x[node] - t))));
  const near = problem.jobs.map((_, j) => j).sort((a, b) => distance(a) - distance(b) || a - b);
  const sizes = [1, 2, 3, 5, 8, near.length].filter(k => k <= Math.min(prove, near.length));
  for (const size of new Set(sizes)) {
    const jobs = near.slice(0, size).sort((a, b) => a - b);
    const part = graphOf({ ...problem, jobs: jobs.map(j => problem.jobs[j]) });
    const all = complete(part, 'any', PROOF);
    if (!all) continue;
    if (!all.slots) return bad('no-time', `${id} fits nowhere.`, undefined, { job: id });
    if (size < near.length) continue;
    const found = ordered(order.graph, all.slots);
    // Only a batch or the room for a wash can be in its way.
    if (found.broken === 0) return good(found);
  }
  return none;
}
