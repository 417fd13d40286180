export { type Call, callsBetween } from './calls.ts';
export { type DryingHint, dryingHints } from './hint.ts';
export { type Drying, learntDrying, learntMediums, shelfAsLearnt } from './learn.ts';
export { lessonsOf } from './lessons.ts';
export { dryingLine, type Waiting } from './line.ts';
export { Lessons } from './seen.ts';
export { inAir, learntShortWait, type ShortWait } from './short-wait.ts';
export { type Sign, signBefore } from './sign.ts';
