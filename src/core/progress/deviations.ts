import { handsOnMin } from '../steps/index.ts';
import { standing, type TrialPlan, type TrialRecord } from '../trial/index.ts';
import { progressOf } from './progress.ts';
import { patchStatus } from './status.ts';

/**
 * Steps that were left out on purpose, in order of time.
 *
 * @example skippedOf(records); // => []
 */
export const skippedOf = (
  records: readonly TrialRecord[],
): { patch: string; step: string; round: number }[] =>
  standing(records).flatMap(r =>
    r.kind === 'step' && r.skipped && r.patch
      ? [r.patch, ...(r.also ?? [])].map(patch => ({ patch, step: r.step, round: r.round }))
      : [],
  );

/**
 * Steps done outside their windows, oldest first: what later explains failures. `byMin` is below 0 for too soon. What is
 * kept is when a step was done; where it is not known when it was begun, that was as much earlier as it usually takes. Only what was begun after the
 * window had closed, or done before it opened, is outside.
 *
 * @example deviationsOf(plan, records); // => []
 */
export function deviationsOf(
  plan: TrialPlan,
  records: readonly TrialRecord[],
): {
  readonly patch: string;
  readonly step: string;
  readonly round: number;
  readonly at: number;
  readonly byMin: number;
}[] {
  const progress = progressOf(plan, records);
  return progress.lines
    .flatMap(line =>
      line.chain.flatMap((link, i) => {
        const at = line.doneAt[i];
        if (at === undefined || i === 0) return [];
        const before = { ...line, spoilt: false, doneAt: line.doneAt.map((d, k) => (k < i ? d : undefined)) };
        const { window, patient } = patchStatus(before, progress.airs, at);
        const begun = line.begunAt[i] ?? at - handsOnMin(link.step, line) * 60_000;
        const byMs = !window
          ? 0
          : at < window.opens
            ? at - window.opens
            : patient
              ? 0
              : Math.max(0, begun - window.closes);
        return byMs
          ? [{ patch: line.patch.code, step: link.step.id, round: link.round, at, byMin: byMs / 60_000 }]
          : [];
      }),
    )
    .sort((a, b) => a.at - b.at);
}
