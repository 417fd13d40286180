import { patchStatus, progressOf, type Trialled } from '../progress/index.ts';
import type { TrialPlan } from '../trial/index.ts';

/**
 * What other trials need hands for now: their pieces whose best moment has come, the soonest to close first.
 *
 * @example dueElsewhere([{ plan, records }], plan.id, start); // => []
 */
export function dueElsewhere(
  trials: readonly Trialled[],
  here: string,
  now: number,
): { readonly trial: TrialPlan; readonly patch: string; readonly what: string; readonly closes: number }[] {
  return trials
    .filter(t => t.plan.id !== here)
    .flatMap(({ plan, records }) => {
      const progress = progressOf(plan, records);
      return progress.lines.flatMap(line => {
        const { window, next, patient } = patchStatus(line, progress.airs, now);
        const closes = patient ? Number.POSITIVE_INFINITY : window?.closes;
        return next && window && closes !== undefined && now >= window.aim
          ? [{ trial: plan, patch: line.patch.code, what: next.step.action, closes }]
          : [];
      });
    })
    .sort((a, b) => a.closes - b.closes);
}
