import type { Trialled } from '../progress/index.ts';
import { dryingSeen } from './learn.ts';
import type { Lessons } from './seen.ts';
import { shortWaitsSeen } from './short-wait.ts';

/**
 * The lessons of a trial; small, and all that other trials need to know of it.
 *
 * @example lessonsOf({ plan, records }).drying; // => []
 */
export const lessonsOf = (trial: Trialled): Lessons => ({
  drying: dryingSeen(trial),
  shortWaits: shortWaitsSeen(trial),
});
