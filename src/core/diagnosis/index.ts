export type { Cause, Evidence, Gate } from './causes.ts';
export { CAUSES } from './every-cause.ts';
export { type Explained, explain, inQuestion, isTroubled, type Weighed, weigh } from './explain.ts';
export { type Signals, signalsOf } from './signals.ts';
