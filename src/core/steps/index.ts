export { cautionsAt, setUpCautions } from './cautions-at.ts';
export { chainOf, type Link, stepsFor, whichTime } from './chain.ts';
export { goFor, handsOnMin, type Joined, onOnePiece, preparedTogether, wholeOf } from './together.ts';
export { handled, isShortWait, isShortWindow, laterIsFine, openMinutes, waitAfter } from './waits.ts';
export { WEAR, wearSteps } from './wear.ts';
export { type WithWhat, withWhat } from './with-what.ts';
