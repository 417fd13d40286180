import { type Graph, LATEST } from './graph.ts';
import { fromNow, type Slot } from './order.ts';
import { Timing } from './timing.ts';

/** What a search that leaves nothing out has come to. */
export interface Complete {
  /** The least any schedule can cost, ms: end and what is off the aims; nothing when there is no schedule. */
  readonly least?: number;
  /** Who does what when, at that cost, where only what was left out of account can still be in the way. */
  readonly slots?: readonly Slot[];
}

/** What is asked for: the least cost, only what is off the aims, or just any schedule. */
type Aim = 'cost' | 'off' | 'any';

interface Stretch {
  /** What it begins with, and what must be over before another begins: a node's start or, with `hands`, its end. */
  readonly from: number;
  readonly out: number;
  readonly hands: number;
}

/**
 * Looks through all orders: moments are the best there are without hands and places; where too many need hands, or
 * lie in a place, at once, one of them comes before another, each way is tried; where nobody is there, it is before or
 * after (branch and bound, Land & Doig 1960). Batches are left out of account, so that what is said to be impossible is. Only what costs less than `below` is looked for. Nothing after `limit` orders.
 */
export function complete(graph: Graph, aim: Aim, limit: number, below?: number): Complete | undefined {
  const { nodes, waits, turns, stays, problem } = graph;
  const n = nodes.length;
  const people = problem.hands.length;
  const there = people ? fromNow(problem.hands[0].there, problem.now) : [];
  if (n && (!people || !there.length)) return {};
  const cost = aim === 'any' ? 0 : 1;
  const must = 4 * (n + waits.length + 2);
  const timing = new Timing(
    [...nodes.map(node => node.from), 0],
    8 * n + 5 * waits.length + turns.length + limit,
    must,
  );
  const { root, x } = timing;
  const room = (i: number, open: number, close: number) => {
    timing.change(i, -Math.max(nodes[i].from, open));
    timing.change(upper[i], Math.min(nodes[i].to, close - nodes[i].hands));
  };
  const upper = nodes.map((node, i) => timing.limit(root, i, node.to, must));
  const soft: { from: number; to: number; most: number }[] = [];
  const softly = (from: number, to: number, most: number) => {
    if (!cost) return;
    soft.push({ from, to, most });
    timing.limit(from, to, most, 1);
  };
  nodes.forEach((node, i) => {
    if (node.aim === undefined) return;
    softly(i, root, -node.aim);
    softly(root, i, node.until!);
  });
  for (const w of waits) {
    const { hands } = nodes[w.before];
    timing.limit(w.after, w.before, -hands - w.min, must);
    if (w.max !== undefined && w.max < LATEST) timing.limit(w.before, w.after, hands + w.max, must);
    if (w.aim === undefined) continue;
    softly(w.after, w.before, -hands - w.aim);
    softly(w.before, w.after, hands + w.until!);
  }
  for (const [a, b] of turns) timing.limit(b, a, 0, must);
  if (aim === 'cost') {
    nodes.forEach((node, i) => {
      timing.limit(n, i, -node.hands, must);
    });
    softly(root, n, 0);
  }
  nodes.forEach((_, i) => {
    room(i, there[0][0], there[there.length - 1][1]);
  });

  let least: number | undefined;
  let slots: Slot[] | undefined;
  let looked = 0;
  let isOpen = false;
  const spanOf = nodes.map(() => ({ lo: 0, hi: there.length - 1 }));
  const isDone = () => aim === 'any' && slots !== undefined;
  const before = (i: number, j: number, hands: number, run: () => boolean): boolean => {
    const kept = timing.saved();
    timing.limit(j, i, -hands, must);
    const ok = run();
    timing.restore(kept);
    return ok;
  };

  /** False when it was given up. */
  const look = (): boolean => {
    if (++looked > limit) return false;
    timing.settle();
    if (timing.broken(must) > 0) return true;
    const value = soft.reduce((sum, { from, to, most }) => sum + Math.max(0, x[to] - x[from] - most), 0);
    if (value >= (least ?? below ?? Number.POSITIVE_INFINITY)) return true;
    const away = nodes.findIndex((node, i) => node.hands > 0 && !isThere(i));
    if (away >= 0) return nextSitting(away);
    const clash = findClash();
    const rooms = clash ? [] : roomsForWash();
    if (rooms.length) {
      // A wash may be anywhere between; only between what follows one another now is it tried.
      isOpen = true;
      for (const [a, b] of rooms) if (!isDone() && !before(a, b, washed(a, b), look)) return false;
      return true;
    }
    if (!clash) {
      least = value;
      slots = nodes.map((_, node) => ({ node, who: 0, at: x[node] }));
      return true;
    }
    for (const a of clash)
      for (const b of clash) {
        if (a === b || isDone()) continue;
        if (!before(a.out, b.from, a.hands + washBetween(a, b), look)) return false;
      }
    return true;
  };
  const isThere = (i: number) => there.some(([a, b]) => x[i] >= a && x[i] + nodes[i].hands <= b);
  const nextSitting = (i: number): boolean => {
    const at = there.findIndex(([, b]) => x[i] + nodes[i].hands <= b);
    const later = at < 0 ? there.length : at;
    const { lo, hi } = spanOf[i];
    for (const [from, to] of [
      [lo, Math.min(hi, later - 1)],
      [Math.max(lo, later), hi],
    ] as const) {
      if (from > to || isDone()) continue;
      const kept = timing.saved();
      spanOf[i] = { lo: from, hi: to };
      room(i, there[from][0], there[to][1]);
      const ok = look();
      spanOf[i] = { lo, hi };
      timing.restore(kept);
      if (!ok) return false;
    }
    return true;
  };
  const washBetween = (a: Stretch, b: Stretch): number => {
    if (people !== 1 || !problem.wash || a.hands !== nodes[a.from].hands || a.out !== a.from) return 0;
    const [p, q] = [nodes[a.from].brush, nodes[b.from].brush];
    return p && q && p !== q ? problem.wash : 0;
  };

  const hands = nodes.flatMap((node, i): Stretch[] =>
    node.hands > 0 ? [{ from: i, out: i, hands: node.hands }] : [],
  );
  const places = new Map<string, Stretch[]>();
  for (const stay of stays) {
    if (problem.places[stay.place] === undefined) continue;
    const { enters, leaves } = stay;
    // What lies there already was there before anything else comes.
    const stretch =
      leaves === undefined
        ? { from: enters!, out: enters!, hands: nodes[enters!].hands }
        : { from: enters ?? root, out: leaves, hands: 0 };
    places.set(stay.place, [...(places.get(stay.place) ?? []), stretch]);
  }
  const findClash = (): Stretch[] | undefined => {
    const over = overlap(hands, people);
    if (over) return over;
    for (const [place, all] of places) {
      const full = overlap(all, problem.places[place]);
      if (full) return full;
    }
    if (people !== 1 || !problem.wash) return undefined;
    const users = hands.filter(h => nodes[h.from].brush).sort((a, b) => x[a.from] - x[b.from]);
    for (let i = 1; i < users.length; i++) {
      const wash = washBetween(users[i - 1], users[i]);
      if (wash && x[users[i].from] - x[users[i - 1].from] - users[i - 1].hands < wash)
        return [users[i - 1], users[i]];
    }
    return undefined;
  };
  /** One more of the stretches than `holds` that all go on at one moment, the earliest such. */
  const overlap = (all: readonly Stretch[], holds: number): Stretch[] | undefined => {
    const sorted = [...all].sort((a, b) => x[a.from] - x[b.from]);
    let open: Stretch[] = [];
    for (const s of sorted) {
      const at = x[s.from];
      open = open.filter(o => x[o.out] + o.hands > at);
      if (x[s.out] + s.hands > at) open.push(s);
      if (open.length > holds) return open.slice(0, holds + 1);
    }
    return undefined;
  };
  const hasRoom = (from: number, to: number) =>
    there.some(([a, b]) => Math.min(b, to) - Math.max(a, from) >= problem.wash);
  /** From the start of one action to the next with a wash between them: in the sitting of the second, where that is another. */
  const washed = (a: number, b: number): number => {
    const open = there.find(([from, to]) => from <= x[b] && x[b] <= to)?.[0] ?? 0;
    const end = x[a] + nodes[a].hands;
    return (open > end ? open - x[a] : nodes[a].hands) + problem.wash;
  };
  /** Where a wash could be made room for between two mediums that have none: what stands next to each other there. */
  const roomsForWash = (): (readonly [number, number])[] => {
    if (people !== 1 || !problem.wash) return [];
    const sorted = hands.map(h => h.from).sort((a, b) => x[a] - x[b] || a - b);
    let last = problem.hands[0].brush;
    let since = -1;
    for (let i = 0; i < sorted.length; i++) {
      const { brush } = nodes[sorted[i]];
      if (!brush) continue;
      if (last && last !== brush) {
        const gaps = Array.from({ length: i - Math.max(0, since) }, (_, k) => Math.max(0, since) + k);
        const isRoom = (k: number) => hasRoom(x[sorted[k]] + nodes[sorted[k]].hands, x[sorted[k + 1]]);
        const atFirst = since < 0 && hasRoom(0, x[sorted[0]]);
        if (!atFirst && !gaps.some(isRoom)) return gaps.map(a => [sorted[a], sorted[a + 1]] as const);
      }
      last = brush;
      since = i;
    }
    return [];
  };
  const isWhole = look();
  // Where only rooms for washes were wanting, nothing is proved.
  if (!isWhole || (isOpen && !slots)) return undefined;
  return { ...(least === undefined ? {} : { least }), ...(slots ? { slots } : {}) };
}
