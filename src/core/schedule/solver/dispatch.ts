import { type Graph, LATEST } from './graph.ts';
import { BREAKING, fromNow, type Slot, sittingAt } from './order.ts';
import type { Spans } from './spans.ts';
import type { Batch } from './workload.ts';

/** How one works off what is there: a first order that is good enough to be made better. */
export interface Manner {
  /**
   * How much of the time between an aim and the end of its window may go before what is begun holds it up: 0 keeps
   * to the aims, 1 only to the windows.
   */
  readonly give: number;
  /** How much earlier than its aim something is done when there is nothing else, as a share of the way to its minimum. */
  readonly eager: number;
}

interface Opening {
  readonly opens: number;
  readonly aim: number | undefined;
  readonly until: number;
  readonly closes: number;
}

interface Pending extends Opening {
  readonly node: number;
  readonly aim: number;
}
/**
 * Plays the work through from now on, always with the hands that are free first: what waits in a window at its aim,
 * else what can be begun without holding up what waits. The order it comes to; windows may be broken in it.
 */
export function dispatch(graph: Graph, manner: Manner): { readonly slots: Slot[]; readonly worth: number } {
  const { nodes, preds, succs, problem } = graph;
  const there = problem.hands.map(h => fromNow(h.there, problem.now));
  const people = problem.hands.map((h, who) => ({ who, free: 0, brush: h.brush }));
  const starts = new Float64Array(nodes.length).fill(-1);
  const left = Int32Array.from(preds, p => p.length);
  const windows = nodes.map(
    (node): Opening => ({
      opens: node.from,
      aim: node.aim,
      until: node.until ?? LATEST,
      closes: node.to,
    }),
  );
  const afters = nodes.map((): number[] => []);
  graph.waits.forEach((w, i) => {
    afters[w.before].push(i);
  });
  const placing = placesOf(graph);
  const batches = new Map<string, { until: number; left: number }>();
  for (const m of problem.made ?? [])
    batches.set(m.batch.key, { until: m.until - problem.now, left: m.batch.serves - m.used });
  /** What can be begun, with a window to wait for, in the order of the aims, and without. */
  const pending: Pending[] = [];
  const fresh = new Set<number>();
  nodes.forEach((_, i) => {
    if (!left[i]) open(i);
  });
  const slots: Slot[] = [];
  let [end, off, broken] = [0, 0, 0];
  while (fresh.size || pending.length) {
    const person = people.reduce((a, b) => (b.free < a.free ? b : a));
    const chosen = choose(person);
    if (!chosen) return { slots: [], worth: Number.POSITIVE_INFINITY };
    take(chosen.node, person, chosen.at);
  }
  return { slots, worth: end + off + BREAKING * broken };

  function open(node: number): void {
    const { aim } = windows[node];
    if (aim === undefined) {
      fresh.add(node);
      return;
    }
    let i = pending.length;
    while (i > 0 && pending[i - 1].aim > aim) i--;
    pending.splice(i, 0, { ...windows[node], aim, node });
  }

  function setupOf(node: number, brush: string | undefined, at: number): number {
    const { brush: own, batch } = nodes[node];
    const wash = own && brush && own !== brush ? problem.wash : 0;
    return wash + (batch && !mixed(batch, at) ? batch.make : 0);
  }

  /** What is left of a batch that can still be used at a moment. */
  function mixed({ key }: Batch, at: number): { until: number; left: number } | undefined {
    const last = batches.get(key);
    return last && last.left > 0 && at <= last.until ? last : undefined;
  }

  /** When hands could start an action at the earliest at or after a moment. */
  function startIn(spans: Spans, node: number, at: number, setup: number): number {
    const { hands } = nodes[node];
    const s = sittingAt(spans, Math.max(0, at - setup), hands + setup);
    return Math.max(at, spans[s][0] + setup);
  }

  function choose(person: (typeof people)[number]): { node: number; at: number } | undefined {
    const spans = there[person.who];
    if (!spans.length) return undefined;
    const able: { node: number; at: number; tie: number; late: number }[] = [];
    let soonestYet = Number.POSITIVE_INFINITY;
    const see = (node: number) => {
      if (!placing.fits(node)) return;
      const { opens, aim, closes } = windows[node];
      const setup = setupOf(node, person.brush, person.free);
      const soonest = Math.max(opens, person.free + setup);
      const wanted = aim === undefined ? soonest : Math.max(soonest, aim - manner.eager * (aim - opens));
      // What waits in a window comes before what is new, what is late for its aim before what is not.
      const tie = aim === undefined ? 1 : closes >= LATEST ? 0.5 : 0;
      const at = startIn(spans, node, wanted, setup);
      soonestYet = Math.min(soonestYet, at);
      able.push({ node, at, tie, late: aim === undefined ? 0 : person.free - aim });
    };
    for (const node of fresh) see(node);
    // In the order of their aims: what is due after something that can be done now, and a while, is not looked at.
    for (const p of pending) {
      if (p.aim - manner.eager * (p.aim - p.opens) > soonestYet && able.length > MANY) break;
      see(p.node);
    }
    able.sort((a, b) => a.at - b.at || a.tie - b.tie || b.late - a.late || a.node - b.node);
    const best = able.find(c => !holdsUp(c.node, c.at, person));
    if (best) return best;
    // Everything holds something up: what closes first.
    const soonest = [...fresh, ...pending.map(p => p.node)]
      .map(node => {
        const setup = setupOf(node, person.brush, person.free);
        const at = startIn(spans, node, Math.max(windows[node].opens, person.free + setup), setup);
        return { node, at, fits: placing.fits(node), closes: windows[node].closes };
      })
      .sort(
        (a, b) => Number(b.fits) - Number(a.fits) || a.closes - b.closes || a.at - b.at || a.node - b.node,
      )[0];
    return soonest;
  }

  /** Whether something that waits could not be done any more in its turn, were this done first; with what follows on it. */
  function holdsUp(node: number, at: number, { brush }: { brush: string | undefined }): boolean {
    const end = at + nodes[node].hands;
    // Other hands may take it: only what all of them must do at once is looked at.
    if (people.length > 1) {
      let pressing = 0;
      for (const p of pending) if (p.node !== node && limit(p) < end) pressing++;
      return pressing >= people.length;
    }
    const follows = followsOn(node, end);
    let free = end;
    let last = nodes[node].brush ?? brush;
    // Merged in the order of their aims.
    for (let i = 0, k = 0; i < pending.length || k < follows.length; ) {
      const isNext = k >= follows.length || (i < pending.length && pending[i].aim <= follows[k].aim);
      const p = isNext ? pending[i++] : follows[k++];
      if (p.node === node) continue;
      // From here on there is time enough before anything is due.
      if (k >= follows.length && free <= p.opens) return false;
      const { hands, brush: own } = nodes[p.node];
      const start = Math.max(p.aim, free + (own && last && own !== last ? problem.wash : 0));
      // What is lost anyhow is no reason.
      if (start > limit(p)) {
        if (p.closes < at || start === p.aim) continue;
        return true;
      }
      if (own) last = own;
      free = start + hands;
    }
    return false;
  }

  /** What waits in a window once an action has ended, in the order of their aims. */
  function followsOn(node: number, end: number): Pending[] {
    return afters[node]
      .flatMap((w): Pending[] => {
        const { after, min, aim, max, until } = graph.waits[w];
        if (aim === undefined || aim > HORIZON) return [];
        return [
          {
            node: after,
            opens: end + min,
            aim: end + aim,
            until: end + (until ?? aim),
            closes: end + (max ?? LATEST),
          },
        ];
      })
      .sort((a, b) => a.aim - b.aim);
  }

  function limit(p: Pending): number {
    const good = Math.max(p.aim, p.until);
    return good + manner.give * Math.max(0, p.closes - good);
  }

  function take(node: number, person: (typeof people)[number], at: number): void {
    const { hands, brush, batch } = nodes[node];
    const ready = batch && mixed(batch, at);
    if (ready) ready.left--;
    else if (batch) batches.set(batch.key, { until: at + batch.lasts, left: batch.serves - 1 });
    slots.push({ node, who: person.who, at });
    const w = windows[node];
    end = Math.max(end, at + hands);
    broken += Math.max(0, at - w.closes);
    if (w.aim !== undefined) off += Math.max(0, w.aim - at, at - w.until);
    starts[node] = at;
    person.free = at + hands;
    if (brush) person.brush = brush;
    placing.take(node);
    if (!fresh.delete(node))
      pending.splice(
        pending.findIndex(p => p.node === node),
        1,
      );
    for (const i of afters[node]) {
      const { after, min, aim, max, until } = graph.waits[i];
      const w = windows[after];
      const done = at + hands;
      windows[after] = {
        opens: Math.max(w.opens, done + min),
        aim: aim === undefined ? w.aim : Math.max(w.aim ?? 0, done + aim),
        until: until === undefined ? w.until : Math.min(w.until, done + until),
        closes: Math.min(w.closes, done + (max ?? LATEST)),
      };
    }
    for (const next of succs[node]) {
      if (--left[next]) continue;
      const opens = Math.max(windows[next].opens, ...preds[next].map(p => starts[p]));
      windows[next] = { ...windows[next], opens };
      open(next);
    }
  }
}

/** How many choices are enough to choose from. */
const MANY = 3;

/** How far ahead one looks for what is in the way, ms: what comes later can be waited for. */
const HORIZON = 45 * 60_000;

/** Which places have room. */
function placesOf({ stays, problem, nodes }: Graph) {
  const used = new Map<string, number>();
  const enters = nodes.map((): string[] => []);
  const leaves = nodes.map((): string[] => []);
  for (const stay of stays) {
    if (problem.places[stay.place] === undefined) continue;
    if (stay.enters === undefined) used.set(stay.place, (used.get(stay.place) ?? 0) + 1);
    else if (stay.leaves !== undefined) enters[stay.enters].push(stay.place);
    if (stay.leaves !== undefined) leaves[stay.leaves].push(stay.place);
  }
  return {
    fits: (node: number) =>
      enters[node].every(
        place =>
          (used.get(place) ?? 0) - leaves[node].filter(p => p === place).length < problem.places[place],
      ),
    take: (node: number) => {
      for (const place of leaves[node]) used.set(place, used.get(place)! - 1);
      for (const place of enters[node]) used.set(place, (used.get(place) ?? 0) + 1);
    },
  };
}
