export { lowerBound } from './bound.ts';
export { graphOf } from './graph.ts';
export { fromNow } from './order.ts';
export { type Search, solve } from './solve.ts';
export { ALWAYS, type Span, type Spans, tidySpans } from './spans.ts';
export { type Remedies, whyNot } from './why-not.ts';
export type { Batch, Busy, Gap, Hands, Job, Made, Op, Schedule, Workload } from './workload.ts';
