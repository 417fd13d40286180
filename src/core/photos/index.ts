export { isDull } from './gloss.ts';
export { type Guess, guessOf, type PhotoSeen } from './guess.ts';
export { type Milk, milkOver, type RoundStep, type Rounds, roundsSeen } from './stages.ts';
export { looksWet, wetUntil } from './wet-until.ts';
export { stageNow, wornBy, wornOtherwise } from './worn-by.ts';
