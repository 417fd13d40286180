import { useMemo } from 'react';
import { pooledNoise, STARTING_REQUEST } from '../../core/design/index.ts';
import type { TrialSummary } from '../../core/summary/index.ts';

/** The scatter between like patches over the workshop's finished trials. */
export function useKnownNoise(known: readonly TrialSummary[]) {
  return useMemo(() => {
    const fits = known.flatMap(k => k.scatter ?? []);
    const points = pooledNoise(fits);
    return points ? { points: Math.max(0.5, Math.round(points * 10) / 10), trials: fits.length } : undefined;
  }, [known]);
}

/**
 * What an assumed scatter rests on, in words: the maker's own trials, nothing yet, or what they wrote.
 *
 * @example scatterBasis(6, undefined); // => 'a guess: no trial of yours has measured it yet'
 */
export const scatterBasis = (
  noise: number,
  known: { readonly points: number; readonly trials: number } | undefined,
): string =>
  known?.points === noise
    ? `as like patches did in ${known.trials === 1 ? 'a trial' : `${known.trials} trials`} of yours`
    : noise === STARTING_REQUEST.noise && !known
      ? 'a guess: no trial of yours has measured it yet'
      : 'as it was written down';
