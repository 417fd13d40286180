import type { Trialled } from '../progress/index.ts';
import { dryingLine } from './line.ts';

/** Something to be told of a long wait. */
export interface Call {
  readonly trial: string;
  readonly at: number;
  readonly words: string;
  /** The same for the same wait, so that a later call takes the place of an earlier one. */
  readonly tag: string;
}

/** A window is said to be closing this share of it before its end, but no longer than half an hour before. */
const LAST_SHARE = 1 / 3;
const LAST_MS = 30 * 60_000;

/**
 * What has to be told of long waits between two moments (ms, `from` left out, `to` counted): that the best moment has
 * come, and that the window is about to close. A night slept through is one call for each wait, its latest.
 *
 * @example callsBetween([{ plan, records: [] }], start, start + 3_600_000); // => []
 */
export function callsBetween(trials: readonly Trialled[], from: number, to: number): Call[] {
  return dryingLine(trials, to, []).flatMap(
    ({ plan, patches, next, aim, closes, patient, since }): Call[] => {
      const what = `${next.step.action}: ${patches.join(', ')} (${plan.name})`;
      const call = { trial: plan.id, tag: `${plan.id} ${next.step.id} ${next.round} ${since}` };
      const last = closes - Math.min(LAST_MS, (closes - aim) * LAST_SHARE);
      const isIn = (at: number) => at > from && at <= to;
      if (!patient && isIn(last)) return [{ ...call, at: last, words: `Last moment. ${what}` }];
      return isIn(aim) ? [{ ...call, at: aim, words: `It is time. ${what}` }] : [];
    },
  );
}
