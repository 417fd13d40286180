import type { Link } from '../steps/index.ts';
import { standing, type TrialPlan, type TrialRecord } from '../trial/index.ts';
import { progressOf } from './progress.ts';
import { isLate, patchStatus } from './status.ts';

/** A patch whose next step was due while nobody was there. */
export interface Missed {
  readonly patch: string;
  readonly next: Link;
  /** How long its window has been closed, minutes. */
  readonly byMin: number;
  /** What being too late does there, where the method says it. */
  readonly tooLate?: string;
}

/** How a trial stands to somebody who comes back to it. */
export interface Away {
  /** Minutes since the last thing that was done. */
  readonly forMin: number;
  /** Windows that closed: what is done now is done too late. */
  readonly lost: readonly Missed[];
  /** Due, and none the worse for waiting. */
  readonly patient: readonly string[];
  /** Due now, with how long their windows stay open, the first to close first. */
  readonly open: readonly { readonly patch: string; readonly next: Link; readonly until: number }[];
}

const MIN = 60_000;

/**
 * What was missed since something was last done in a trial, and what can still be saved, at a moment (ms). Nothing while
 * nothing was done yet.
 *
 * @example awayOf(plan, [], start); // => undefined
 */
export function awayOf(plan: TrialPlan, records: readonly TrialRecord[], now: number): Away | undefined {
  const last = standing(records).findLast(
    r => r.kind === 'step' || r.kind === 'ready' || r.kind === 'spoilt',
  );
  if (!last) return undefined;
  const { lines, airs } = progressOf(plan, records);
  const lost: Missed[] = [];
  const patient: string[] = [];
  const open: { patch: string; next: Link; until: number }[] = [];
  for (const line of lines) {
    const status = patchStatus(line, airs, now);
    const { code } = line.patch;
    if (!status.next || !status.window || now < status.window.opens) continue;
    const { next, window } = status;
    if (status.patient) patient.push(code);
    else if (isLate(status, now))
      lost.push({
        patch: code,
        next,
        byMin: (now - window.closes) / MIN,
        tooLate: status.last?.step.tooLate,
      });
    else open.push({ patch: code, next, until: window.closes });
  }
  return {
    forMin: (now - Date.parse(last.at)) / MIN,
    lost: lost.sort((a, b) => b.byMin - a.byMin),
    patient,
    open: open.sort((a, b) => a.until - b.until),
  };
}
