import { useMemo } from 'react';
import { pooledNoise } from '../../core/design/index.ts';
import { scatterOf } from '../../core/findings/index.ts';
import { useAllRecords, useTrials } from '../../store/index.ts';
import { useWorkshop } from '../shell/shell.tsx';

/** The scatter between like patches over the workshop's finished trials. */
export function useKnownNoise() {
  const workshop = useWorkshop();
  const trials = useTrials(workshop);
  const here = trials.data?.trials.filter(t => !t.removedAt) ?? [];
  const records = useAllRecords(
    workshop,
    here.map(t => t.plan.id),
  );
  return useMemo(() => {
    const fits = here.flatMap(({ plan }) => scatterOf(plan, records.data?.get(plan.id) ?? []) ?? []);
    const points = pooledNoise(fits);
    return points ? { points: Math.max(0.5, Math.round(points * 10) / 10), trials: fits.length } : undefined;
  }, [records.data, here]);
}
