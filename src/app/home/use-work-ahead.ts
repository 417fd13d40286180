import { useEffect, useState } from 'react';
import { Cancelled, type Outcome } from '../../core/outcome/index.ts';
import type { Trialled } from '../../core/progress/index.ts';
import type { Agenda, Working } from '../../core/schedule/index.ts';
import { agendaInWorker } from '../../workers/index.ts';
import { workPlans } from '../workshop/work-plans.ts';

/**
 * The work of all these trials for one pair of hands, laid out in a worker: many pieces take seconds, and the view is
 * not to wait for it. What was laid out before stays until the next is there. Nothing as long as there are no trials.
 */
export function useWorkAhead(
  trials: readonly Trialled[],
  working: Working,
  now: number,
): Outcome<Agenda> | undefined {
  const [last, setLast] = useState<Outcome<Agenda>>();
  const key = workPlans.keyOf(trials, working, now);
  const known = workPlans.known(key);
  // biome-ignore lint/correctness/useExhaustiveDependencies: the key stands for the trials, how one works and when
  useEffect(() => {
    if (known || !trials.length) return;
    const control = new AbortController();
    agendaInWorker({ trials, working, now, thorough: false }, () => {}, control.signal).then(
      found => {
        workPlans.keep(key, found);
        setLast(found);
      },
      error => {
        if (error instanceof Cancelled) return;
        const say = error instanceof Error ? error.message : 'The planner stopped.';
        setLast({ ok: false, problem: { code: 'planner', say } });
      },
    );
    return () => control.abort();
  }, [key]);
  return trials.length ? (known ?? last) : undefined;
}
