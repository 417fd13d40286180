import { useRef } from 'react';
import type { Problem } from '../../core/outcome/index.ts';
import { type Agenda, agendaOf, type Working } from '../../core/schedule/index.ts';
import type { TrialPlan, TrialRecord } from '../../core/trial/index.ts';

/** Who stands at the bench stays this long, whatever their sittings say. */
const STAYS_MS = 4 * 3_600_000;
const BEHIND_MS = 2000;
const AGAIN_MS = 5000;

interface Kept {
  readonly records: readonly TrialRecord[];
  readonly working: Working;
  readonly at: number;
  readonly agenda?: Agenda;
  readonly problem?: Problem;
}

/** The day's work from now on, planned anew after every record and when the work falls behind; or why nothing fits. */
export function useAgenda(
  plan: TrialPlan,
  records: readonly TrialRecord[],
  working: Working,
  now: number,
): Pick<Kept, 'agenda' | 'problem'> {
  const kept = useRef<Kept>(undefined);
  const old = kept.current;
  const isBehind = (old?.agenda?.tasks[0]?.from ?? now) < now - BEHIND_MS;
  const isOld =
    !old ||
    old.records !== records ||
    old.working !== working ||
    (isBehind && now - old.at > AGAIN_MS) ||
    now - old.at > 10 * 60_000;
  if (isOld) {
    const found = agendaOf(plan, records, working, now, undefined, { hereUntil: now + STAYS_MS });
    kept.current = {
      records,
      working,
      at: now,
      ...(found.ok ? { agenda: found.value } : { problem: found.problem }),
    };
  }
  return kept.current!;
}
