import { useMemo } from 'react';
import { learntMediums, shelfAsLearnt } from '../../core/drying/index.ts';
import type { Trialled } from '../../core/progress/index.ts';
import type { Shelf } from '../../core/shelf/index.ts';

/** How long the mediums of a shelf take to dry as far as the workshop's own trials tell, and the shelf with those times. */
export function useLearnt(shelf: Shelf, trials: readonly Trialled[]) {
  return useMemo(() => {
    const mediums = learntMediums(shelf.mediums, trials);
    return { mediums, shelf: shelfAsLearnt(shelf, mediums) };
  }, [shelf, trials]);
}
