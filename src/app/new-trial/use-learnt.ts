import { useMemo } from 'react';
import { type Lessons, learntMediums, shelfAsLearnt } from '../../core/drying/index.ts';
import type { Shelf } from '../../core/shelf/index.ts';

/** How long the mediums of a shelf take to dry as far as the workshop's own trials tell, and the shelf with those times. */
export function useLearnt(shelf: Shelf, lessons: readonly Lessons[]) {
  return useMemo(() => {
    const mediums = learntMediums(shelf.mediums, lessons);
    return { mediums, shelf: shelfAsLearnt(shelf, mediums) };
  }, [shelf, lessons]);
}
