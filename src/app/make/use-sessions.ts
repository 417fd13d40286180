import { useMemo } from 'react';
import { type Session, sessionsOf } from '../../core/calendar/index.ts';
import type { Agenda } from '../../core/schedule/index.ts';
import type { TrialPlan } from '../../core/trial/index.ts';

/** The stretches of work of an agenda, and the writer of calendar files, which is fetched when it is wanted. */
export function useSessions(plan: TrialPlan, agenda: Agenda | undefined) {
  const sessions = useMemo<readonly Session[]>(
    () => (agenda ? sessionsOf(plan, agenda) : []),
    [plan, agenda],
  );
  return {
    sessions,
    calendarOf: async () => (await import('../../core/calendar/write.ts')).calendarOf,
  };
}
