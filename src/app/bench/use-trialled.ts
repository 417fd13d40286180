import type { Trialled } from '../../core/schedule/index.ts';
import { useAllRecords, useTrials, type WorkshopName } from '../../store/index.ts';

/** Every trial of a workshop that was not removed, with its records. */
export function useTrialled(workshop: WorkshopName): Trialled[] {
  const trials = useTrials(workshop);
  const plans = (trials.data?.trials ?? []).filter(t => !t.removedAt).map(t => t.plan);
  const records = useAllRecords(
    workshop,
    plans.map(p => p.id),
  );
  return plans.map(plan => ({ plan, records: records.data?.get(plan.id) ?? [] }));
}
