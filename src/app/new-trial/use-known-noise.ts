import { useMemo } from 'react';
import { pooledNoise } from '../../core/design/index.ts';
import { scatterOf } from '../../core/findings/index.ts';
import type { Trialled } from '../../core/progress/index.ts';

/** The scatter between like patches over the workshop's finished trials. */
export function useKnownNoise(trials: readonly Trialled[]) {
  return useMemo(() => {
    const fits = trials.flatMap(({ plan, records }) => scatterOf(plan, records) ?? []);
    const points = pooledNoise(fits);
    return points ? { points: Math.max(0.5, Math.round(points * 10) / 10), trials: fits.length } : undefined;
  }, [trials]);
}
