import { type Graph, LATEST, type Stay } from './graph.ts';
import type { Spans } from './spans.ts';
import { Timing } from './timing.ts';
import type { Busy, Schedule } from './workload.ts';

/** Where an action stands: whose hands, and about when. */
export interface Slot {
  readonly node: number;
  readonly who: number;
  readonly at: number;
}

/** How much dearer it is to break a window by a second than to be a second off an aim, where orders are compared. */
export const BREAKING = 3;
/** What a second of washing or mixing counts beside one of waiting: somebody has to do it. */
const SETTING_UP = 0.05;

/**
 * Who does what after what, and when: the order is chosen by others, the moments are the best there are for it (see
 * {@link Timing}). Hands are there only in their sittings; which sitting an action is in belongs to the order.
 */
export class Order {
  readonly x: Float64Array;
  /** About when each action starts: where it was put, or its moment as it was settled last. */
  private readonly seen: Float64Array;
  /** What each pair of hands does, in turn. */
  private seq: number[][];
  private readonly who: Int32Array;
  private readonly sitting: Int32Array;
  /** Batches that start anew at an action although the last was not used up. */
  private readonly anew: Uint8Array;
  private readonly timing: Timing;
  private readonly must: number;
  private readonly there: readonly Spans[];
  private readonly upper: Int32Array;
  private readonly lower: Float64Array;
  /** The limit to what the same hands do before, and what that is. */
  private readonly link: Int32Array;
  private readonly linked: Int32Array;
  /** Limits for batches and places. */
  private extra = new Map<number, number>();
  private idle: number[] = [];
  private lifted: number[] = [];
  /** Before which actions the brush is washed or a batch is made, ms. */
  private readonly washes: Float64Array;
  private readonly makes: Float64Array;
  private readonly batchOf: Int32Array;
  private readonly end: number;
  private readonly hasBatches: boolean;

  constructor(readonly graph: Graph) {
    const { nodes, waits, turns, chains, problem } = graph;
    const n = nodes.length;
    // The end, what is off an aim (a thousandth dearer: among equals what keeps to its aims), and what must be.
    const soft = 1000 * (n + 1);
    const aims = soft + n + 1;
    this.end = n;
    this.must = 2 * (n + waits.length + 2) * aims;
    this.there = problem.hands.map(h => fromNow(h.there, problem.now));
    const timing = new Timing(
      [...nodes.map(node => node.from), 0],
      12 * n + 5 * waits.length + turns.length + 8 * graph.stays.length + 40,
      this.must,
    );
    this.timing = timing;
    this.x = timing.x;
    this.seen = timing.x.slice();
    const { root } = timing;
    this.upper = Int32Array.from(nodes, (node, i) => timing.limit(root, i, node.to, this.must));
    this.lower = Float64Array.from(nodes, node => node.from);
    nodes.forEach((node, i) => {
      // Among equals the earlier; all of it together weighs less than a millisecond off an aim.
      timing.limit(root, i, node.from, 1);
      if (node.aim === undefined) return;
      if (node.aim > node.from) timing.limit(i, root, -node.aim, aims);
      if (node.until! < node.to) timing.limit(root, i, node.until!, aims);
    });
    for (const w of waits) {
      const { hands } = nodes[w.before];
      timing.limit(w.after, w.before, -hands - w.min, this.must);
      if (w.max !== undefined && w.max < LATEST) timing.limit(w.before, w.after, hands + w.max, this.must);
      if (w.aim !== undefined && w.aim > w.min) timing.limit(w.after, w.before, -hands - w.aim, aims);
      if (w.until !== undefined && w.until < (w.max ?? LATEST))
        timing.limit(w.before, w.after, hands + w.until, aims);
    }
    for (const [a, b] of turns) timing.limit(b, a, 0, this.must);
    for (const last of new Set(chains.map(c => c[c.length - 1])))
      timing.limit(this.end, last, -nodes[last].hands, this.must);
    timing.limit(root, this.end, 0, soft);
    this.seq = problem.hands.map(() => []);
    this.who = new Int32Array(n);
    this.sitting = new Int32Array(n);
    this.anew = new Uint8Array(n);
    this.link = new Int32Array(n).fill(-1);
    this.linked = new Int32Array(n).fill(-1);
    this.washes = new Float64Array(n);
    this.makes = new Float64Array(n);
    this.batchOf = new Int32Array(n).fill(-1);
    this.hasBatches = nodes.some(node => node.batch);
  }

  /** What the search makes small: the cost, what is broken of windows dear; among equals what keeps to its aims and washes and mixes less. */
  get worth(): number {
    return this.cost + 1e-3 * this.off + SETTING_UP * this.setups + BREAKING * this.broken;
  }
  /** Time for washing and for making batches, ms. */
  get setups(): number {
    let sum = 0;
    for (let i = 0; i < this.washes.length; i++) sum += this.washes[i] + this.makes[i];
    return sum;
  }
  get cost(): number {
    return this.x[this.end] + this.off;
  }
  /** By how much windows, hands, places and turns are broken, ms in all; 0 for a schedule. */
  get broken(): number {
    return this.timing.broken(this.must);
  }
  /** The job whose window is broken most. */
  stuck(): number {
    const { nodes } = this.graph;
    const [a, b] = this.timing.worst(this.must);
    const node = [b, a].find(i => i < nodes.length) ?? 0;
    return nodes[node].of[0].job;
  }
  get off(): number {
    const { nodes, waits } = this.graph;
    const { x } = this;
    let sum = 0;
    for (let i = 0; i < nodes.length; i++) {
      const { aim, until } = nodes[i];
      if (aim !== undefined) sum += Math.max(0, aim - x[i], x[i] - until!);
    }
    for (const { before, after, aim, until } of waits) {
      if (aim === undefined) continue;
      const wait = x[after] - x[before] - nodes[before].hands;
      sum += Math.max(0, aim - wait, wait - until!);
    }
    return sum;
  }
  get work(): number {
    return this.timing.work;
  }

  /** All actions in the order of these slots. */
  set(slots: readonly Slot[]): void {
    this.seq = this.seq.map(() => []);
    for (const { node, who, at } of [...slots].sort((a, b) => a.at - b.at)) {
      this.seq[who].push(node);
      this.seen[node] = at;
      this.who[node] = who;
      this.sitting[node] = sittingAt(this.there[who], at, this.graph.nodes[node].hands);
    }
    for (const seq of this.seq) this.straighten(seq);
  }

  /** Takes actions out and puts each where it comes about the moment named. */
  replace(slots: readonly Slot[]): void {
    const out = new Set(slots.map(s => s.node));
    this.seq = this.seq.map(seq =>
      seq.some(node => out.has(node)) ? seq.filter(node => !out.has(node)) : seq.slice(),
    );
    for (const { node, who, at } of [...slots].sort((a, b) => a.at - b.at)) {
      const seq = this.seq[who];
      let i = seq.length;
      // Behind everything that starts before it; what was put in just now stands where it was put.
      while (i > 0 && (out.has(seq[i - 1]) ? this.seen[seq[i - 1]] > at : this.x[seq[i - 1]] >= at)) i--;
      seq.splice(i, 0, node);
      this.seen[node] = at;
      this.who[node] = who;
      this.sitting[node] = sittingAt(this.there[who], at, this.graph.nodes[node].hands);
      this.straighten(seq);
    }
  }

  /** Takes actions out of all orders; what is left of them are their own waits. */
  free(nodes: ReadonlySet<number>): void {
    this.seq = this.seq.map(seq => seq.filter(node => !nodes.has(node)));
  }

  /** Nobody is in an earlier sitting than what they did before. */
  private straighten(seq: readonly number[]): void {
    for (let i = 1; i < seq.length; i++)
      if (this.sitting[seq[i]] < this.sitting[seq[i - 1]]) this.sitting[seq[i]] = this.sitting[seq[i - 1]];
  }

  /** Whether a batch starts anew at an action, whatever is left of the last. */
  startAnew(node: number, yes: boolean): void {
    this.anew[node] = yes ? 1 : 0;
  }
  isAnew(node: number): boolean {
    return this.anew[node] === 1;
  }

  sittingOf(node: number): number {
    return this.sitting[node];
  }
  /** The stretches in which a pair of hands is there. */
  sittings(who: number): Spans {
    return this.there[who];
  }
  whoOf(node: number): number {
    return this.who[node];
  }
  sequence(who: number): readonly number[] {
    return this.seq[who];
  }
  get hands(): number {
    return this.seq.length;
  }

  /** The best moments for the order as it is now. */
  settle(): void {
    this.washes.fill(0);
    this.makes.fill(0);
    const wanted = new Map<number, number>();
    this.batches(wanted);
    this.brushes();
    this.places(wanted);
    const { nodes } = this.graph;
    const held = new Uint8Array(nodes.length);
    for (const [who, seq] of this.seq.entries())
      for (let i = 0; i < seq.length; i++) {
        const node = seq[i];
        held[node] = 1;
        const setup = this.washes[node] + this.makes[node];
        const before = i ? seq[i - 1] : -1;
        this.bounds(node, who, before < 0 || this.sitting[before] < this.sitting[node] ? setup : 0);
        this.follow(node, before, before < 0 ? 0 : -nodes[before].hands - setup);
      }
    for (let i = 0; i < nodes.length; i++)
      if (!held[i]) {
        this.lowerTo(i, nodes[i].from);
        this.timing.change(this.upper[i], nodes[i].to);
        this.follow(i, -1, 0);
      }
    for (const [key, arc] of this.extra)
      if (!wanted.has(key)) {
        this.timing.lift(arc);
        this.lifted.push(arc);
        this.extra.delete(key);
      }
    for (const [key, most] of wanted) {
      const arc = this.extra.get(key);
      if (arc === undefined)
        this.extra.set(key, this.arc(Math.floor(key / (nodes.length + 2)), key % (nodes.length + 2), most));
      else this.timing.change(arc, most);
    }
    this.timing.settle();
    this.seen.set(this.x);
    this.lifted = this.lifted.filter(arc => {
      if (this.timing.isIdle(arc)) this.idle.push(arc);
      return !this.timing.isIdle(arc);
    });
  }

  private arc(from: number, to: number, most: number): number {
    const arc = this.idle.pop();
    if (arc === undefined) return this.timing.limit(from, to, most, this.must);
    this.timing.moved(arc, from, to, most);
    return arc;
  }

  /** The sitting an action is in, and the time for what has to be made ready first in it. */
  private bounds(node: number, who: number, setup: number): void {
    const { hands, from, to } = this.graph.nodes[node];
    const [opens, closes] = this.there[who][this.sitting[node]] ?? [LATEST, LATEST];
    this.lowerTo(node, Math.max(from, opens + setup));
    this.timing.change(this.upper[node], Math.min(to, closes - hands));
  }

  private lowerTo(node: number, at: number): void {
    if (this.lower[node] === at) return;
    this.lower[node] = at;
    this.timing.change(node, -at);
  }

  /** An action comes after what the same hands do before. */
  private follow(node: number, before: number, most: number): void {
    const arc = this.link[node];
    if (this.linked[node] === before) {
      if (before >= 0) this.timing.change(arc, most);
      return;
    }
    if (arc >= 0) {
      this.timing.lift(arc);
      this.lifted.push(arc);
    }
    this.linked[node] = before;
    this.link[node] = before < 0 ? -1 : this.arc(node, before, most);
  }

  private key(from: number, to: number): number {
    return from * (this.graph.nodes.length + 2) + to;
  }

  /** In time as far as one knows: by what each does, in turn; across hands by the moments of before. */
  private inTime(has: (node: number) => boolean): number[] {
    if (this.seq.length === 1) return this.seq[0].filter(has);
    return this.seq.flatMap(seq => seq.filter(has)).sort((a, b) => this.seen[a] - this.seen[b] || a - b);
  }

  /** Which actions use which batch: made right before the first of them, used up in time and by so many. */
  private batches(wanted: Map<number, number>): void {
    const { nodes, problem } = this.graph;
    this.batchOf.fill(-1);
    if (!this.hasBatches) return;
    const open = new Map<string, { id: number; first: number; until: number; left: number }>();
    problem.made?.forEach((made, id) => {
      open.set(made.batch.key, {
        id,
        first: -1,
        until: made.until - problem.now,
        left: made.batch.serves - made.used,
      });
    });
    let id = problem.made?.length ?? 0;
    for (const node of this.inTime(i => nodes[i].batch !== undefined)) {
      const batch = nodes[node].batch!;
      const last = open.get(batch.key);
      const usable =
        last &&
        last.left > 0 &&
        !this.anew[node] &&
        (last.first >= 0 || this.seen[node] <= last.until || (this.seen[node] === 0 && last.until >= 0));
      if (usable) {
        last.left--;
        this.batchOf[node] = last.id;
        if (last.first >= 0) {
          wanted.set(this.key(last.first, node), batch.lasts);
          if (this.seq.length > 1) wanted.set(this.key(node, last.first), 0);
        } else wanted.set(this.key(this.timing.root, node), last.until);
      } else {
        this.makes[node] = batch.make;
        this.batchOf[node] = id;
        open.set(batch.key, { id: id++, first: node, until: 0, left: batch.serves - 1 });
      }
    }
  }

  /** Between two mediums the brush is washed, where most time is left between them. */
  private brushes(): void {
    const { nodes, problem } = this.graph;
    if (!problem.wash) return;
    for (const [who, seq] of this.seq.entries()) {
      let brush = problem.hands[who].brush;
      let since = 0;
      for (let i = 0; i < seq.length; i++) {
        const next = nodes[seq[i]].brush;
        if (!next) continue;
        if (brush && brush !== next) this.washes[seq[this.roomiest(seq, since, i)]] = problem.wash;
        brush = next;
        since = i + 1;
      }
    }
  }

  /** Before which of `seq[since..i]` hands are idle the longest; the last of equals. */
  private roomiest(seq: readonly number[], since: number, i: number): number {
    const { nodes } = this.graph;
    let [best, most] = [i, Number.NEGATIVE_INFINITY];
    for (let k = since; k <= i; k++) {
      const before = k ? this.seen[seq[k - 1]] + nodes[seq[k - 1]].hands : 0;
      const room = this.seen[seq[k]] - before - this.makes[seq[k]];
      if (room >= most) [best, most] = [k, room];
    }
    return best;
  }

  /** Who enters a full place comes after somebody has left it. */
  private places(wanted: Map<number, number>): void {
    const { nodes, stays, problem } = this.graph;
    if (!stays.length) return;
    const at = new Int32Array(nodes.length).fill(-1);
    this.inTime(() => true).forEach((node, i) => {
      at[node] = i;
    });
    const byPlace = new Map<string, Stay[]>();
    for (const stay of stays) byPlace.set(stay.place, [...(byPlace.get(stay.place) ?? []), stay]);
    for (const [place, all] of byPlace) {
      const holds = problem.places[place] ?? Number.POSITIVE_INFINITY;
      if (holds >= all.length) continue;
      const enters = (stay: Stay) => (stay.enters === undefined ? -1 : at[stay.enters]);
      const leaves = (stay: Stay) => (stay.leaves === undefined ? enters(stay) + 0.5 : at[stay.leaves]);
      // Each of so many spots holds one after the other; who comes takes the spot that is left first.
      const spots: Stay[] = [];
      for (const stay of [...all].sort((a, b) => enters(a) - enters(b))) {
        if (spots.length < holds) {
          spots.push(stay);
          continue;
        }
        let first = 0;
        for (let i = 1; i < spots.length; i++) if (leaves(spots[i]) < leaves(spots[first])) first = i;
        const out = spots[first];
        spots[first] = stay;
        const node = out.leaves ?? out.enters!;
        if (stay.enters === undefined || node === stay.enters) continue;
        const key = this.key(stay.enters, node);
        const after = out.leaves === undefined ? nodes[node].hands : 0;
        wanted.set(key, Math.min(wanted.get(key) ?? 0, -after));
      }
    }
  }

  saved(into?: Saved): Saved {
    return {
      timing: this.timing.saved(into?.timing),
      seq: this.seq,
      arrays: this.own.map(a => a.slice()),
      extra: new Map(this.extra),
      idle: [...this.idle],
      lifted: [...this.lifted],
    };
  }
  restore(from: Saved): void {
    this.timing.restore(from.timing);
    this.seq = from.seq;
    this.own.forEach((a, i) => {
      a.set(from.arrays[i] as never);
    });
    this.extra = new Map(from.extra);
    this.idle = [...from.idle];
    this.lifted = [...from.lifted];
  }
  private get own() {
    return [
      this.seen,
      this.who,
      this.sitting,
      this.anew,
      this.lower,
      this.link,
      this.linked,
      this.washes,
      this.makes,
      this.batchOf,
    ];
  }

  /** The schedule it has come to. */
  schedule(bound: number): Schedule {
    const { nodes, chains, problem } = this.graph;
    const { now, wash } = problem;
    const at = (node: number) => now + this.x[node];
    const busy = this.seq.map(seq =>
      seq.flatMap((node): Busy[] => {
        const [from, make, id] = [at(node), this.makes[node], this.batchOf[node]];
        const batch = id < 0 ? {} : { batch: id };
        const { hands, brush, of } = nodes[node];
        const first = from - make;
        return [
          ...(this.washes[node] ? [{ from: first - wash, to: first, what: 'wash' as const }] : []),
          ...(make ? [{ from: first, to: from, what: 'make' as const, ...batch }] : []),
          {
            from,
            to: from + hands,
            what: 'op',
            job: problem.jobs[of[0].job].id,
            op: of[0].k,
            ...(brush ? { brush } : {}),
            ...batch,
          },
        ];
      }),
    );
    return {
      starts: chains.map(chain => chain.map(at)),
      who: chains.map(chain => chain.map(node => this.who[node])),
      busy,
      end: now + this.x[this.end],
      off: this.off,
      cost: this.cost,
      bound,
      washes: busy.flat().filter(b => b.what === 'wash').length,
    };
  }
}

interface Saved {
  readonly timing: ReturnType<Timing['saved']>;
  readonly seq: number[][];
  readonly arrays: (Int32Array | Float64Array | Uint8Array)[];
  readonly extra: Map<number, number>;
  readonly idle: number[];
  readonly lifted: number[];
}

/** The stretches hands are there, from now on. */
export function fromNow(there: Spans, now: number): Spans {
  return there
    .filter(([, b]) => b > now)
    .map(([a, b]) => [Math.max(0, Math.ceil(a - now)), Math.min(LATEST, Math.floor(b - now))] as const);
}

/** The sitting in which an action would start at a moment or next after it, long enough for it. */
export function sittingAt(there: Spans, at: number, hands: number): number {
  let lo = 0;
  let hi = there.length - 1;
  while (lo < hi) {
    const mid = (lo + hi) >> 1;
    if (there[mid][1] - hands < at) lo = mid + 1;
    else hi = mid;
  }
  while (lo < there.length - 1 && there[lo][1] - there[lo][0] < hands) lo++;
  return lo;
}
