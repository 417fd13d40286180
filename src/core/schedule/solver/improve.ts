import type { Progress } from '../../outcome/index.ts';
import type { Chance } from '../../random/index.ts';
import type { Order, Slot } from './order.ts';

/** Shares of the neighbourhoods that are tried. */
const [SHIFT, FOLLOWING, SWAP, SEGMENT] = [0.25, 0.5, 0.15, 0.05];
/** At the beginning something worse by so many mean actions is taken one time in three, at the end by so few. */
const [HOT, COLD] = [0.6, 0.01];

const BROKEN = 1e15;

/**
 * Makes an order better: a part of it is taken out and put in at another place, its moments are worked out anew, and
 * it stays when it is better, or hardly worse (simulated annealing, Kirkpatrick 1983, over large neighbourhoods, Shaw
 * 1998). Stops after so much work, or when nothing can be better than `goal`. What was best is in `order` at
 * the end; with `untilWhole` it is the first that breaks nothing.
 */
export function improve(
  order: Order,
  work: number,
  goal: number,
  chance: Chance,
  tell: Progress = () => {},
  untilWhole = false,
): void {
  const { graph } = order;
  const { nodes, chains, preds, succs } = graph;
  const started = order.work;
  const mean = nodes.reduce((sum, n) => sum + n.hands, 0) / Math.max(1, nodes.length) || 1;
  let kept = order.saved();
  let keptWorth = order.worth;
  let best = kept;
  // What breaks nothing is better than anything that does.
  const rank = (worth: number) => (order.broken > 0 ? BROKEN + worth : worth);
  let bestWorth = rank(keptWorth);
  const until = started + work;
  let rounds = 0;
  const jobsOf = nodes.map(node => node.of.map(o => o.job));
  while (order.work < until && bestWorth > goal && !(untilWhole && bestWorth < BROKEN)) {
    const done = (order.work - started) / work;
    if (rounds++ % 200 === 0) tell(done, 'Looking for a better order');
    const heat = mean * HOT * (COLD / HOT) ** done;
    if (!move()) continue;
    order.settle();
    const worth = order.worth;
    if (worth > keptWorth - heat * Math.log(1 - chance.next())) {
      order.restore(kept);
      continue;
    }
    keptWorth = worth;
    if (rank(worth) < bestWorth - 1e-6) {
      kept = order.saved();
      best = kept;
      bestWorth = rank(worth);
    } else kept = order.saved(kept === best ? undefined : kept);
  }
  order.restore(best);
  tell(1, 'Done');

  function move(): boolean {
    const what = chance.next();
    if (what < SHIFT) return shift(pickNode());
    if (what < SHIFT + FOLLOWING) return follow();
    if (what < SHIFT + FOLLOWING + SWAP) return swap();
    if (what < SHIFT + FOLLOWING + SWAP + SEGMENT) return segment();
    return relax();
  }

  function pickNode(): number {
    return chance.whole(0, nodes.length - 1);
  }

  /** One action some places earlier or later among what the same hands do, or to other hands, or another sitting. */
  function shift(node: number): boolean {
    if (nodes[node].batch && chance.next() < 0.1) {
      order.startAnew(node, !order.isAnew(node));
      return true;
    }
    const who = order.hands > 1 && chance.next() < 0.3 ? chance.whole(0, order.hands - 1) : order.whoOf(node);
    const seq = order.sequence(who);
    let at = order.x[node];
    if (who === order.whoOf(node)) {
      const i = seq.indexOf(node);
      const far = chance.next() < 0.1 ? seq.length / 3 : 1.5;
      const by = (1 + Math.floor(-Math.log(1 - chance.next()) * far)) * (chance.next() < 0.5 ? -1 : 1);
      const to = Math.max(0, Math.min(seq.length - 1, i + by));
      if (to === i) return otherSitting(node, by);
      // Not before what must come first, nor after what must come later.
      const step = Math.sign(by);
      let j = i;
      while (j !== to && !(step < 0 ? preds[node] : succs[node]).includes(seq[j + step])) j += step;
      if (j === i) return otherSitting(node, by);
      at = step < 0 ? order.x[seq[j]] - 0.5 : order.x[seq[j]] + 0.5;
    } else at += (chance.next() - 0.5) * 2 * mean;
    order.replace([{ node, who, at }]);
    return true;
  }

  /** The same place in line, but before or after a pause. */
  function otherSitting(node: number, by: number): boolean {
    const there = graph.problem.hands[order.whoOf(node)].there;
    if (there.length < 2) return false;
    const spans = order.sittings(order.whoOf(node));
    const span = spans[order.sittingOf(node) + Math.sign(by)];
    if (!span) return false;
    order.replace([{ node, who: order.whoOf(node), at: by > 0 ? span[0] : span[1] - nodes[node].hands }]);
    return true;
  }

  /** An action and what follows on it in its job, all earlier or all later by the same time. */
  function follow(): boolean {
    const chain = chains[chance.whole(0, chains.length - 1)];
    const from = chance.whole(0, chain.length - 1);
    const to = chance.next() < 0.5 ? chain.length - 1 : chance.whole(from, chain.length - 1);
    const spans = order.sittings(order.whoOf(chain[from]));
    if (spans.length > 1 && chance.next() < 0.3) {
      // All of it as long after the beginning of another sitting as it is now after that of its own.
      const now = order.sittingOf(chain[from]);
      const then = now + (chance.next() < 0.6 ? -1 : 1);
      if (!spans[then]) return false;
      const away = spans[then][0] - spans[now][0];
      // Now and then everything that is as far along and in the same sitting goes with it.
      const along =
        chance.next() < 0.4
          ? chains.filter(c => c.length > from && order.sittingOf(c[from]) === now)
          : [chain];
      const moving = new Set(along.flatMap(c => c.slice(from, to + 1)));
      order.replace([...moving].map(node => slot(node, order.x[node] + away)));
      return true;
    }
    const other = chance.pick(nodes).hands + (chance.next() < 0.4 ? chance.pick(nodes).hands : 0);
    const what = chance.next();
    const by =
      what < 0.55
        ? other * (chance.next() < 0.5 ? -1 : 1)
        : what < 0.75
          ? (chance.next() - 0.5) * 12 * mean
          : order.x[pickNode()] - order.x[chain[from]] + 0.5;
    order.replace(chain.slice(from, to + 1).map(node => slot(node, order.x[node] + by)));
    return true;
  }

  /** Some actions that stand one after the other, some places earlier or later. */
  function segment(): boolean {
    const who = chance.whole(0, order.hands - 1);
    const seq = order.sequence(who);
    if (seq.length < 3) return false;
    const length = chance.whole(2, Math.min(8, seq.length - 1));
    const i = chance.whole(0, seq.length - length);
    const part = seq.slice(i, i + length);
    const by = (1 + Math.floor(-Math.log(1 - chance.next()) * 3)) * (chance.next() < 0.5 ? -1 : 1);
    const to = by < 0 ? Math.max(0, i + by) : Math.min(seq.length - 1, i + length - 1 + by);
    const at = order.x[seq[to]] + (by < 0 ? -0.5 : 0.5);
    if (by < 0 ? to === i : to === i + length - 1) return false;
    order.replace(part.map((node, k) => slot(node, at + k * 1e-3)));
    return true;
  }

  /** Two jobs, or parts of them, in each other's places. */
  function swap(): boolean {
    if (chains.length < 2) return false;
    const a = chance.whole(0, chains.length - 1);
    const b = (a + chance.whole(1, chains.length - 1)) % chains.length;
    const [p, q] = [chains[a], chains[b]];
    const n = Math.min(p.length, q.length);
    const from = chance.next() < 0.6 ? 0 : chance.whole(0, n - 1);
    const slots: Slot[] = [];
    for (let k = 1; k <= n - from; k++) {
      const [u, v] = [p[p.length - k], q[q.length - k]];
      if (u === v) continue;
      slots.push(
        { node: u, who: order.whoOf(v), at: order.x[v] },
        { node: v, who: order.whoOf(u), at: order.x[u] },
      );
    }
    if (!slots.length) return false;
    order.replace(slots);
    return true;
  }

  function slot(node: number, at: number): Slot {
    return { node, who: order.whoOf(node), at };
  }

  /** Some jobs that lie near each other are taken out, put where they would be were no hands needed, and in again. */
  function relax(): boolean {
    const count = 1 + Math.floor(chance.next() * Math.min(3, chains.length));
    const near = order.x[pickNode()];
    const startOf = (chain: readonly number[]) => order.x[chain[0]];
    const jobs =
      chance.next() < 0.7
        ? [...chains]
            .sort((a, b) => Math.abs(startOf(a) - near) - Math.abs(startOf(b) - near))
            .slice(0, count)
        : Array.from({ length: count }, () => chance.pick(chains));
    const out = new Set(jobs.flat());
    for (const node of [...out]) if (jobsOf[node].length > 2) out.delete(node);
    if (!out.size) return false;
    order.free(out);
    order.settle();
    const blur = mean * 0.5 * chance.next();
    order.replace([...out].map(node => slot(node, order.x[node] + (chance.next() - 0.5) * blur)));
    return true;
  }
}
