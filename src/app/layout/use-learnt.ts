import { useMemo } from 'react';
import { learntMediums, shelfAsLearnt } from '../../core/schedule/index.ts';
import type { Shelf } from '../../core/shelf/index.ts';
import { useTrialled } from '../bench/use-trialled.ts';
import { useWorkshop } from '../shell/shell.tsx';

/** How long the mediums of a shelf take to dry as far as the workshop's own trials tell, and the shelf with those times. */
export function useLearnt(shelf: Shelf) {
  const trials = useTrialled(useWorkshop());
  const about = trials.map(t => `${t.plan.id} ${t.records.length}`).join();
  // biome-ignore lint/correctness/useExhaustiveDependencies: what the trials are about stands for them
  return useMemo(() => {
    const mediums = learntMediums(shelf.mediums, trials);
    return { mediums, shelf: shelfAsLearnt(shelf, mediums) };
  }, [shelf, about]);
}
