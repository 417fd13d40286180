export { type Away, awayOf, type Missed } from './away.ts';
export { hasBegun } from './begun.ts';
export { deviationsOf, skippedOf } from './deviations.ts';
export { type PatchProgress, progressOf, type Trialled, type TrialProgress } from './progress.ts';
export { mostRounds, roundNow } from './rounds.ts';
export { isLate, type PatchStatus, patchStatus, type Window, windowAfter } from './status.ts';
export { alsoNow, waitedFor } from './together.ts';
export { type Waited, waitsOf } from './waited.ts';
