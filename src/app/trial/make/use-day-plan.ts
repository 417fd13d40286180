import { useEffect, useRef, useState } from 'react';
import type { Outcome, Problem } from '../../../core/outcome/index.ts';
import { Cancelled } from '../../../core/outcome/index.ts';
import type { Trialled } from '../../../core/progress/index.ts';
import { type Agenda, agendaOfAll, type Working } from '../../../core/schedule/index.ts';
import { agendaInWorker } from '../../../workers/index.ts';

interface Found {
  readonly key: string;
  readonly found: Outcome<Agenda>;
}

/** Minutes after which a plan of the day is looked at again. */
const AGAIN_MS = 10 * 60_000;

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
  const about = trials.map(t => [t.plan.id, t.records.length]);
  const key = JSON.stringify([about, working, Math.floor(now / AGAIN_MS)]);
  const quick = useRef<Found>(undefined);
  const [thorough, setThorough] = useState<Found>();
  const [busy, setBusy] = useState<number>();
  const abort = useRef<AbortController>(undefined);
  if (quick.current?.key !== key) quick.current = { key, found: agendaOfAll(trials, working, now) };
  const search = () => {
    abort.current = new AbortController();
    setBusy(0);
    agendaInWorker({ trials, working, now, thorough: true }, setBusy, abort.current.signal)
      .then(found => setThorough({ key, found }))
      .catch(error => {
        if (!(error instanceof Cancelled)) throw error;
      })
      .finally(() => setBusy(undefined));
  };
  const { found } =
    thorough?.key === key && (thorough.found.ok || !quick.current.found.ok) ? thorough : quick.current;
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
