import { useMemo } from 'react';
import type { Trialled } from '../../core/progress/index.ts';
import { useAllRecords, useTrials, type WorkshopName } from '../../store/index.ts';

/** Every trial of a workshop that was not removed, with its records; the same list until something changes. */
export function useTrialled(workshop: WorkshopName): Trialled[] {
  const { data } = useTrials(workshop);
  const plans = useMemo(() => (data?.trials ?? []).filter(t => !t.removedAt).map(t => t.plan), [data]);
  const records = useAllRecords(
    workshop,
    plans.map(p => p.id),
  ).data;
  return useMemo(() => plans.map(plan => ({ plan, records: records?.get(plan.id) ?? [] })), [plans, records]);
}
