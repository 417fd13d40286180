import { type PatchProgress, patchStatus, progressOf } from '../progress/index.ts';
import { isShortWait, type Link } from '../steps/index.ts';
import type { TrialPlan } from '../trial/index.ts';
import { driedBy, REFERENCE_AIR } from '../units/index.ts';
import { driesMedium } from './dries.ts';
import { learntDrying, type Trialled } from './learn.ts';
import { lessonsOf } from './lessons.ts';
import type { Lessons } from './seen.ts';
import { questionFor, TOGETHER_MS } from './sign.ts';

/** Pieces that wait together for the same: one bar of the drying line. Times are ms. */
export interface Waiting {
  readonly plan: TrialPlan;
  readonly patches: readonly string[];
  readonly last: Link;
  readonly next: Link;
  readonly since: number;
  readonly opens: number;
  readonly aim: number;
  readonly closes: number;
  /** Later is as good: nothing closes. */
  readonly patient: boolean;
  /** When the medium is likely dry in this air: nine in ten; nothing where no medium dries. */
  readonly dry?: { readonly lo: number; readonly hi: number; readonly answers: number };
  /** What to look for; nothing where there is nothing to see. */
  readonly question?: string;
  /** The last answer, if one was given. */
  readonly asked?: PatchProgress['asked'];
}

/**
 * Everything that waits over all `trials` for long, the soonest first; `lessons` of the whole workshop tell how long mediums dry.
 *
 * @example dryingLine([{ plan, records: [] }], start); // => []
 */
export function dryingLine(
  trials: readonly Trialled[],
  now: number,
  lessons: readonly Lessons[] = trials.map(lessonsOf),
): Waiting[] {
  const bars: Waiting[] = [];
  for (const trial of trials) {
    const progress = progressOf(trial.plan, trial.records);
    for (const line of progress.lines) {
      const status = patchStatus(line, progress.airs, now);
      const { window, last, next } = status;
      if (!window || !last || !next) continue;
      const since = Math.max(...line.doneAt.filter(t => t !== undefined));
      if (isShortWait((window.aim - since) / 60_000)) continue;
      const range = driesMedium(last.step, line.settings)
        ? learntDrying(line.settings.medium, lessons, REFERENCE_AIR, line.settings.coatMm)
        : undefined;
      const question = questionFor(line, last);
      const bar: Waiting = {
        plan: trial.plan,
        patches: [line.patch.code],
        last,
        next,
        since,
        ...window,
        patient: Boolean(status.patient),
        ...(range
          ? {
              dry: {
                lo: driedBy(progress.airs, since, range.lo * 3_600_000),
                hi: driedBy(progress.airs, since, range.hi * 3_600_000),
                answers: range.answers,
              },
            }
          : {}),
        ...(question ? { question } : {}),
        ...(line.asked ? { asked: line.asked } : {}),
      };
      const same = bars.findIndex(b => together(b, bar));
      if (same >= 0) bars[same] = { ...bars[same], patches: [...bars[same].patches, line.patch.code] };
      else bars.push(bar);
    }
  }
  return bars.sort((a, b) => a.aim - b.aim);
}

const together = (a: Waiting, b: Waiting) =>
  a.plan.id === b.plan.id &&
  a.next.step.id === b.next.step.id &&
  a.next.round === b.next.round &&
  Math.abs(a.aim - b.aim) < TOGETHER_MS &&
  a.question === b.question &&
  a.asked?.ready === b.asked?.ready;
