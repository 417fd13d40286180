import type { TrialPlan, TrialRecord } from '../trial/index.ts';

/**
 * The same trial with every time moved by `ms`, so that a demo made once looks as if it were made today.
 *
 * @example shiftTimes(plan, records, 60_000).records[0].at; // => '2026-05-02T09:01:00.000Z'
 */
export function shiftTimes(plan: TrialPlan, records: readonly TrialRecord[], ms: number) {
  const later = (iso: string) => new Date(Date.parse(iso) + ms).toISOString();
  return {
    plan: { ...plan, createdAt: later(plan.createdAt) },
    records: records.map(
      r =>
        ({
          ...r,
          at: later(r.at),
          ...(r.kind === 'photo' && r.takenAt ? { takenAt: later(r.takenAt) } : {}),
          ...(r.kind === 'step' && r.begun ? { begun: later(r.begun) } : {}),
          ...(r.kind === 'step' && r.told ? { told: later(r.told) } : {}),
        }) as TrialRecord,
    ),
  };
}
