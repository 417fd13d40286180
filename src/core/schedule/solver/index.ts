export { lowerBound } from './bound.ts';
export { type Search, solve } from './solve.ts';
export { ALWAYS, meet, type Span, type Spans, tidySpans, within, without } from './spans.ts';
export { type Remedies, whyNot } from './why-not.ts';
export type { Batch, Busy, Gap, Hands, Job, Made, Op, Schedule, Workload } from './workload.ts';
