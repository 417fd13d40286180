import { meet, type Span, type Spans, tidySpans } from './spans.ts';
import type { Busy, Made, Op } from './workload.ts';

interface Free {
  /** Moments at which the action may start without a new batch. */
  readonly plain: Spans;
  /** Moments at which it may start after making a batch right before. */
  readonly making: Spans;
}

/**
 * What one pair of hands is busy with: actions, washing the brush between two mediums, and making batches ready.
 * Never changed; every change gives a new one.
 */
export class Calendar {
  constructor(
    readonly there: Spans,
    readonly items: readonly Busy[],
    readonly wash: number,
    readonly brush: string | undefined,
  ) {}

  /** Where an action can start, from `now` on; washes before and after are reckoned with. */
  free(op: Op, now: number, made: ReadonlyMap<number, Made>): Free {
    const plain: Span[] = [];
    const making: Span[] = [];
    const nextBrush = this.brushesAfter();
    let last = this.brush;
    let from = now;
    const gap = (to: number, i: number) => {
      const pre = op.brush && last && last !== op.brush ? this.wash : 0;
      const next = nextBrush[i];
      const post = op.brush && next && next !== op.brush ? this.wash : 0;
      for (const [a, b] of this.there) {
        if (b < from || a > to) continue;
        const start = Math.max(a, from) + pre;
        const end = Math.min(b, to) - op.hands - post;
        if (start <= end) plain.push([start, end]);
        if (op.batch && start + op.batch.make <= end) making.push([start + op.batch.make, end]);
      }
    };
    this.items.forEach((item, i) => {
      gap(item.from, i);
      if (item.brush) last = item.brush;
      from = Math.max(from, item.to);
    });
    gap(Number.POSITIVE_INFINITY, this.items.length);
    if (!op.batch) return { plain: tidySpans(plain), making: [] };
    const usable: Span[] = [];
    for (const m of made.values())
      if (m.batch.key === op.batch.key && m.used < m.batch.serves) usable.push([m.ready, m.until]);
    return { plain: meet(tidySpans(plain), tidySpans(usable)), making: tidySpans(making) };
  }

  /** For every gap before item `i`, the brush of the next action after it. */
  private brushesAfter(): (string | undefined)[] {
    const after = new Array<string | undefined>(this.items.length + 1);
    for (let i = this.items.length - 1; i >= 0; i--) after[i] = this.items[i].brush ?? after[i + 1];
    return after;
  }

  /** With an action at a moment that {@link free} allowed, its washes, and a batch made right before where `making`. */
  put(op: Op, start: number, at: { job: string; op: number; batch?: number; making?: boolean }): Calendar {
    const make = at.making ? op.batch!.make : 0;
    const item: Busy = {
      from: start,
      to: start + op.hands,
      what: 'op',
      job: at.job,
      op: at.op,
      ...(op.brush ? { brush: op.brush } : {}),
      ...(at.batch === undefined ? {} : { batch: at.batch }),
    };
    const items = [...this.items];
    const i = placeOf(items, item);
    items.splice(i, 0, item);
    if (at.making) items.splice(i, 0, { from: start - make, to: start, what: 'make', batch: at.batch });
    if (!op.brush) return new Calendar(this.there, items, this.wash, this.brush);
    return new Calendar(this.there, washed(items, item, make, this), this.wash, this.brush);
  }

  /** Without some jobs' actions; washes that are needed no more go, those needed now come in their place. */
  drop(jobs: ReadonlySet<string>, batches: ReadonlySet<number>): Calendar {
    const kept = this.items.filter(
      item =>
        item.what !== 'wash' &&
        !(item.what === 'op' && jobs.has(item.job!)) &&
        !(item.what === 'make' && !batches.has(item.batch!)),
    );
    return new Calendar(this.there, withWashes(kept, this), this.wash, this.brush);
  }

  /** The same with other jobs in the places of some. */
  renamed(name: (job: string) => string): Calendar {
    const items = this.items.map(item => (item.job === undefined ? item : { ...item, job: name(item.job) }));
    return new Calendar(this.there, items, this.wash, this.brush);
  }
}

/** Where an item goes: behind everything that ends when it starts, before what starts when it ends. */
function placeOf(items: readonly Busy[], { from, to }: { from: number; to: number }): number {
  let i = 0;
  while (
    i < items.length &&
    (items[i].from < from || (items[i].from === from && items[i].to <= from && to > from))
  )
    i++;
  return i;
}

/** Washes beside a new action; the wash that lay between its neighbours goes. */
function washed(items: Busy[], item: Busy, make: number, calendar: Calendar): Busy[] {
  const at = items.indexOf(item);
  let p = at - 1;
  while (p >= 0 && !items[p].brush) p--;
  let n = at + 1;
  while (n < items.length && !items[n].brush) n++;
  const before = p >= 0 ? items[p].brush : calendar.brush;
  const after = items[n]?.brush;
  const out = items.filter((x, i) => !(x.what === 'wash' && i > p && i < n));
  const from = item.from - make;
  if (before && before !== item.brush)
    out.splice(out.indexOf(item) - (make ? 1 : 0), 0, { from: from - calendar.wash, to: from, what: 'wash' });
  if (after && after !== item.brush)
    out.splice(out.indexOf(item) + 1, 0, { from: item.to, to: item.to + calendar.wash, what: 'wash' });
  return out;
}

/** Washes put anew into the latest room between two actions with different brushes. */
function withWashes(items: readonly Busy[], { there, wash, brush }: Calendar): Busy[] {
  const out: Busy[] = [];
  let last = brush;
  let since = 0;
  for (const item of items) {
    if (item.brush && last && item.brush !== last) {
      const room = latestRoom(out, since, item.from, there, wash);
      out.splice(room.index, 0, { from: room.at, to: room.at + wash, what: 'wash' });
    }
    out.push(item);
    if (item.brush) {
      last = item.brush;
      since = out.length;
    }
  }
  return out;
}

function latestRoom(items: readonly Busy[], since: number, end: number, there: Spans, wash: number) {
  let to = end;
  for (let i = items.length; i >= since; i--) {
    const from = i > 0 ? items[i - 1].to : Number.NEGATIVE_INFINITY;
    for (let s = there.length - 1; s >= 0; s--) {
      const b = Math.min(there[s][1], to);
      if (b - wash >= Math.max(there[s][0], from)) return { index: i, at: b - wash };
    }
    if (i > 0) to = items[i - 1].from;
  }
  throw new Error('There is no room to wash the brush between two mediums.');
}
