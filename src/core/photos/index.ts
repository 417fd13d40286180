export { type Guess, guessOf, type PhotoSeen } from './guess.ts';
export { wetUntil } from './wet-until.ts';
