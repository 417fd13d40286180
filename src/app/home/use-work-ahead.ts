import { useEffect, useRef, useState } from 'react';
import { Cancelled, type Outcome } from '../../core/outcome/index.ts';
import type { Trialled } from '../../core/progress/index.ts';
import type { Agenda, Working } from '../../core/schedule/index.ts';
import { agendaInWorker } from '../../workers/index.ts';

const AGAIN_MS = 10 * 60_000;

/**
 * The work of all these trials for one pair of hands, laid out in a worker: many pieces take seconds, and the view is
 * not to wait for it. What was laid out before stays until the next is there.
 */
export function useWorkAhead(
  trials: readonly Trialled[],
  working: Working,
  now: number,
): Outcome<Agenda> | undefined {
  const [found, setFound] = useState<Outcome<Agenda>>();
  const about = trials.map(t => `${t.plan.id} ${t.records.length}`).join();
  const last = useRef(now);
  if (now - last.current > AGAIN_MS) last.current = now;
  const from = last.current;
  // biome-ignore lint/correctness/useExhaustiveDependencies: what the trials are about stands for them
  useEffect(() => {
    const control = new AbortController();
    agendaInWorker({ trials, working, now: from, thorough: false }, () => {}, control.signal).then(
      setFound,
      error => {
        if (error instanceof Cancelled) return;
        const say = error instanceof Error ? error.message : 'The planner stopped.';
        setFound({ ok: false, problem: { code: 'planner', say } });
      },
    );
    return () => control.abort();
  }, [about, working, from]);
  return found;
}
