/** A closed stretch of time, ms; `from` is never after `to`. */
export type Span = readonly [from: number, to: number];

/** Stretches in order, none touching another. */
export type Spans = readonly Span[];

export const ALWAYS: Spans = [[Number.NEGATIVE_INFINITY, Number.POSITIVE_INFINITY]];

/** Any stretches put in order, those that touch made one. */
export function tidySpans(spans: readonly Span[]): Spans {
  if (isTidy(spans)) return spans;
  const sorted = spans.filter(([a, b]) => a <= b).sort((p, q) => p[0] - q[0]);
  const out: [number, number][] = [];
  for (const [a, b] of sorted) {
    const last = out[out.length - 1];
    if (last && a <= last[1]) last[1] = Math.max(last[1], b);
    else out.push([a, b]);
  }
  return out;
}

function isTidy(spans: readonly Span[]): boolean {
  for (let i = 0; i < spans.length; i++)
    if (spans[i][0] > spans[i][1] || (i > 0 && spans[i][0] <= spans[i - 1][1])) return false;
  return true;
}

/** What lies in both. */
export function meet(a: Spans, b: Spans): Spans {
  const out: Span[] = [];
  for (let i = 0, j = 0; i < a.length && j < b.length; ) {
    const from = Math.max(a[i][0], b[j][0]);
    const to = Math.min(a[i][1], b[j][1]);
    if (from <= to) out.push([from, to]);
    if (a[i][1] < b[j][1]) i++;
    else j++;
  }
  return out;
}

/** The moments from which some moment of `later` is at least `least` and at most `most` away. */
export const before = (later: Spans, least: number, most: number): Spans =>
  tidySpans(later.map(([a, b]) => [a - most, b - least]));

/** The moments of `spans` between two. */
export function within(spans: Spans, from: number, to: number): Spans {
  const out: Span[] = [];
  for (let i = firstEndingAt(spans, from); i < spans.length && spans[i][0] <= to; i++)
    if (Math.max(spans[i][0], from) <= Math.min(spans[i][1], to))
      out.push([Math.max(spans[i][0], from), Math.min(spans[i][1], to)]);
  return out;
}

/** Index of the first stretch that ends at or after a moment, by halving. */
function firstEndingAt(spans: Spans, at: number): number {
  let lo = 0;
  let hi = spans.length;
  while (lo < hi) {
    const mid = (lo + hi) >> 1;
    if (spans[mid][1] < at) lo = mid + 1;
    else hi = mid;
  }
  return lo;
}

/** The moment of `spans` nearest to `at`; nothing when there is none. */
export function nearest(spans: Spans, at: number): number | undefined {
  const i = firstEndingAt(spans, at);
  const after = i < spans.length ? Math.max(spans[i][0], at) : undefined;
  const before = i > 0 ? spans[i - 1][1] : undefined;
  if (after === undefined || before === undefined) return after ?? before;
  return at - before <= after - at ? before : after;
}

/** What is left of `spans` when `taken` (in any order) is cut out; ends stay open to what was there. */
export function without(spans: Spans, taken: readonly Span[]): Spans {
  let out = [...spans];
  for (const [a, b] of tidySpans(taken)) {
    out = out.flatMap(([from, to]): Span[] => {
      if (b <= from || a >= to) return [[from, to]];
      return [...(a > from ? [[from, a] as const] : []), ...(b < to ? [[b, to] as const] : [])];
    });
  }
  return out;
}
