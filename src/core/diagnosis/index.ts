export { CAUSES, type Cause, type Evidence } from './causes.ts';
export { type Explained, explain, isTroubled, type Weighed, weigh } from './explain.ts';
export { type Signals, signalsOf } from './signals.ts';
export { SYMPTOMS } from './symptoms.ts';
