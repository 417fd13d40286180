import type { Span } from './spans.ts';
import type { Workload } from './workload.ts';

interface Head {
  readonly from: number;
  readonly hands: number;
  readonly tail: number;
}

/**
 * A cost below which no schedule can be (ms), so that one knows how far a found one may be from the best. For each
 * job alone its length with every wait at its aim: a wait that is shortened by a second saves no more than the
 * second it costs. For the hands together the preemptive one-machine bound with heads and tails (Jackson 1955,
 * Carlier 1982), heads and tails counted with waits at their aims; several hands are taken as one that is as fast as all of them. Hands
 * work only while they are there.
 */
export function lowerBound(problem: Workload): number {
  const ops: Head[] = [];
  let alone = 0;
  for (const job of problem.jobs) {
    let at = Math.max(problem.now, job.first?.aim ?? problem.now);
    // A first action may be earlier than its aim at the price of what it is early by, which is what it saves.
    const heads = job.ops.map(op => {
      const from = at;
      at += op.hands + (op.gap?.aim ?? 0);
      return from;
    });
    const last = job.ops.length - 1;
    const end = heads[last] + job.ops[last].hands;
    alone = Math.max(alone, end - problem.now);
    job.ops.forEach((op, k) => {
      ops.push({ from: heads[k], hands: op.hands, tail: end - heads[k] - op.hands });
    });
  }
  return Math.max(alone, oneMachine(ops, problem) - problem.now);
}

/** Jackson's preemptive schedule: always work on what has the longest tail; the latest end plus tail is the bound. */
function oneMachine(ops: readonly Head[], { hands, now }: Workload): number {
  const waiting = [...ops].sort((a, b) => a.from - b.from);
  const open: { left: number; tail: number }[] = [];
  const speed = Math.max(1, hands.length);
  const there = hands
    .flatMap(h => h.there)
    .filter(([, b]) => b > now)
    .map(([a, b]): Span => [Math.max(a, now), b])
    .sort((a, b) => a[0] - b[0]);
  let time = now;
  let bound = now;
  let s = 0;
  while (waiting.length || open.length) {
    while (s < there.length && there[s][1] <= time) s++;
    if (s >= there.length) return bound;
    time = Math.max(time, there[s][0]);
    while (waiting.length && waiting[0].from <= time) {
      const { hands: left, tail } = waiting.shift()!;
      open.push({ left: left / speed, tail });
    }
    if (!open.length) {
      time = waiting[0].from;
      continue;
    }
    open.sort((a, b) => b.tail - a.tail);
    const job = open[0];
    const until = Math.min(time + job.left, waiting[0]?.from ?? Number.POSITIVE_INFINITY, there[s][1]);
    job.left -= until - time;
    time = until;
    if (job.left <= 1e-9) {
      open.shift();
      bound = Math.max(bound, time + job.tail);
    }
  }
  return bound;
}
