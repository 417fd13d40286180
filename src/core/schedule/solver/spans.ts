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
