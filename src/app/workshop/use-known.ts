import { useMemo } from 'react';
import type { TrialSummary } from '../../core/summary/index.ts';
import { useOverview, type WorkshopName } from '../../store/index.ts';

const NONE: readonly TrialSummary[] = [];

/** What the trials of a workshop that were not removed came to, newest first; the same list until something changes. */
export function useKnown(workshop: WorkshopName): readonly TrialSummary[] {
  const { data } = useOverview(workshop);
  return useMemo(() => data?.trials.filter(t => !t.removedAt).map(t => t.summary) ?? NONE, [data]);
}

/** What they teach about waiting. */
export function useLessons(workshop: WorkshopName) {
  const known = useKnown(workshop);
  return useMemo(() => known.map(k => k.lessons), [known]);
}
