import { useEffect, useRef, useState } from 'react';
import type { Outcome, Problem } from '../../../core/outcome/index.ts';
import { Cancelled } from '../../../core/outcome/index.ts';
import type { Trialled } from '../../../core/progress/index.ts';
import { type Agenda, type Working, workPlanOf } from '../../../core/schedule/index.ts';
import { agendaInWorker } from '../../../workers/index.ts';
import { workPlans } from '../../workshop/work-plans.ts';

interface Found {
  readonly key: string;
  readonly found: Outcome<Agenda>;
}

/**
 * The plan of the work on all trials that lie on one bench: a quick one at once, a thorough one when asked for, with its
 * progress.
 */
export function useDayPlan(
  trials: readonly Trialled[],
  working: Working,
  now: number,
): {
  readonly agenda?: Agenda;
  readonly problem?: Problem;
  readonly busy?: number;
  search(): void;
  cancel(): void;
} {
  const key = workPlans.keyOf(trials, working, now);
  const known = workPlanOf(workPlans, trials, working, now);
  const [thorough, setThorough] = useState<Found>();
  const [busy, setBusy] = useState<number>();
  const abort = useRef<AbortController>(undefined);
  const search = () => {
    abort.current = new AbortController();
    setBusy(0);
    agendaInWorker({ trials, working, now, thorough: true }, setBusy, abort.current.signal)
      .then(found => {
        if (found.ok) workPlans.keep(key, found);
        setThorough({ key, found });
      })
      .catch(error => {
        if (!(error instanceof Cancelled)) throw error;
      })
      .finally(() => setBusy(undefined));
  };
  const found = thorough?.key === key && (thorough.found.ok || !known.ok) ? thorough.found : known;
  // Where none was found and there may be one it goes on looking by itself.
  const isOpen = !found.ok && found.problem.code === 'none-yet' && thorough?.key !== key;
  const began = useRef('');
  useEffect(() => {
    if (!isOpen || began.current === key) return;
    began.current = key;
    search();
  });
  return {
    ...(found.ok ? { agenda: found.value } : { problem: found.problem }),
    ...(busy === undefined ? {} : { busy }),
    search,
    cancel: () => abort.current?.abort(),
  };
}
