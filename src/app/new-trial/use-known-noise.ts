import { useMemo } from 'react';
import { pooledNoise } from '../../core/design/index.ts';
import type { TrialSummary } from '../../core/summary/index.ts';

/** The scatter between like patches over the workshop's finished trials. */
export function useKnownNoise(known: readonly TrialSummary[]) {
  return useMemo(() => {
    const fits = known.flatMap(k => k.scatter ?? []);
    const points = pooledNoise(fits);
    return points ? { points: Math.max(0.5, Math.round(points * 10) / 10), trials: fits.length } : undefined;
  }, [known]);
}
