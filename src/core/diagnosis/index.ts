export { Case, type ExplainedCase, explainCase } from './case.ts';
export type { Cause, Evidence, Gate } from './causes.ts';
export { type Common, commonCause } from './common.ts';
export { confirmingTrial } from './confirm.ts';
export { CAUSES } from './every-cause.ts';
export { type Explained, type Explanation, explain, explained, isTroubled, weigh } from './explain.ts';
export { inQuestion } from './gates.ts';
export { type Inference, infer, type Weighed } from './infer.ts';
export { type Signals, signalsOf } from './signals.ts';
