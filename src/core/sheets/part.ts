import { standing, type TrialPlan, type TrialRecord } from '../trial/index.ts';

/** Patches that are printed by themselves: what was planned first (0), or a further batch. */
export interface PrintPart {
  readonly batch: number;
  readonly name: string;
  readonly patches: number;
}

/**
 * The parts of a trial that can be printed by themselves; none where nothing was added to it.
 *
 * @example partsOf(plan); // => []
 */
export function partsOf(plan: TrialPlan): PrintPart[] {
  const batches = [...new Set(plan.patches.map(p => p.batch ?? 0))].sort((a, b) => a - b);
  if (!batches.some(b => b > 0)) return [];
  return batches.map(batch => ({
    batch,
    name: batch === 0 ? 'what was planned first' : `what was added${batch > 1 ? `, ${batch}.` : ''}`,
    patches: onlyPart(plan, batch).patches.length,
  }));
}

/**
 * A plan with the patches of one part only, as its sheets and labels are made of it.
 *
 * @example onlyPart(plan, 1).patches.length; // => 0
 */
export const onlyPart = (plan: TrialPlan, batch: number): TrialPlan => ({
  ...plan,
  patches: plan.patches.filter(p => (p.batch ?? 0) === batch),
});

/**
 * The part that is to be printed next: the last that was added, as long as nothing of it is begun while something else
 * is; nothing where all belongs together.
 */
export function nextPart(plan: TrialPlan, records: readonly TrialRecord[]): number | undefined {
  const last = partsOf(plan).at(-1)?.batch;
  if (last === undefined) return undefined;
  const begun = new Set(
    standing(records).flatMap(r => (r.kind === 'step' ? [r.patch, ...(r.also ?? [])] : [])),
  );
  const isIn = (batch: number) => plan.patches.some(p => (p.batch ?? 0) === batch && begun.has(p.code));
  return !isIn(last) && begun.size > 0 ? last : undefined;
}
