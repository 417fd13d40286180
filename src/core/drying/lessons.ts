import * as v from 'valibot';
import type { Trialled } from '../progress/index.ts';
import { DryingSeen, dryingSeen } from './learn.ts';
import { ShortWaitSeen, shortWaitsSeen } from './short-wait.ts';

/** What one trial teaches about waiting: of its mediums' drying and of short waits. */
export const Lessons = v.object({ drying: v.array(DryingSeen), shortWaits: v.array(ShortWaitSeen) });
export type Lessons = v.InferOutput<typeof Lessons>;

/**
 * The lessons of a trial; small, and all that other trials need to know of it.
 *
 * @example lessonsOf({ plan, records }).drying; // => []
 */
export const lessonsOf = (trial: Trialled): Lessons => ({
  drying: dryingSeen(trial),
  shortWaits: shortWaitsSeen(trial),
});
