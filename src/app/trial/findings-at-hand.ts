import { useEffect, useRef, useState, useSyncExternalStore } from 'react';
import { type Findings, findingsAtHand, keepFindings } from '../../core/findings/index.ts';
import { Cancelled } from '../../core/outcome/index.ts';
import { seedOf } from '../../core/random/index.ts';
import type { TrialPlan, TrialRecord } from '../../core/trial/index.ts';
import { type WorkshopName, workshopOf } from '../../store/index.ts';
import { findingsInWorker } from '../../workers/index.ts';

/** Goes up whenever findings came in, so that what is drawn from them is drawn again. */
let count = 0;
const listeners = new Set<() => void>();
const follow = (tell: () => void) => {
  listeners.add(tell);
  return () => {
    listeners.delete(tell);
  };
};

/** Draws a component again when findings came in. */
export const useFindingsCount = (): number => useSyncExternalStore(follow, () => count);

export type Working =
  | { readonly state: 'found'; readonly findings: Findings }
  | { readonly state: 'working'; readonly share: number; stop(): void }
  | { readonly state: 'stopped'; again(): void }
  | { readonly state: 'failed'; readonly why: string; again(): void };

/** What findings follow from: plan, records and the code that works them out. Others of any of them have another name. */
export function nameOfWork(
  plan: TrialPlan,
  records: readonly TrialRecord[],
  code = import.meta.env.CORE,
): string {
  const text = JSON.stringify([code, plan, records]);
  return [text, `.${text}`].map(part => seedOf(part).toString(36)).join('') + text.length.toString(36);
}

/** Findings as they were kept, else worked out in a worker and kept; what cannot be kept is worked out anew the next time. */
async function findingsFor(
  workshop: WorkshopName,
  plan: TrialPlan,
  records: readonly TrialRecord[],
  tell: (share: number) => void,
  signal: AbortSignal,
): Promise<Findings> {
  const store = workshopOf(workshop);
  const name = nameOfWork(plan, records);
  const kept = await store.workedOut(plan.id, name).catch(() => undefined);
  if (signal.aborted) throw new Cancelled();
  if (kept) return kept as Findings;
  const findings = await findingsInWorker(plan, records, tell, signal);
  void store.keepWorkedOut(plan.id, name, findings).catch(() => undefined);
  return findings;
}

/** What a trial supports: what is there already at once, else how far it is, with the way to stop it. */
export function useFindings(
  workshop: WorkshopName,
  plan: TrialPlan,
  records: readonly TrialRecord[],
): Working {
  useFindingsCount();
  const [share, setShare] = useState(0);
  const [ended, setEnded] = useState<{ readonly of: readonly TrialRecord[]; readonly why?: string }>();
  const [turn, setTurn] = useState(0);
  const abort = useRef<AbortController>(undefined);
  const atHand = findingsAtHand(plan, records);
  const isThere = atHand !== undefined;
  // biome-ignore lint/correctness/useExhaustiveDependencies: `turn` begins it again
  useEffect(() => {
    if (isThere) return;
    const now = new AbortController();
    abort.current = now;
    setShare(0);
    findingsFor(workshop, plan, records, setShare, now.signal).then(
      findings => {
        keepFindings(plan, records, findings);
        count++;
        for (const tell of listeners) tell();
      },
      error => {
        if (!(error instanceof Cancelled)) setEnded({ of: records, why: String(error?.message ?? error) });
      },
    );
    return () => now.abort();
  }, [workshop, plan, records, isThere, turn]);
  if (atHand) return { state: 'found', findings: atHand };
  const again = () => {
    setEnded(undefined);
    setTurn(t => t + 1);
  };
  if (ended?.of === records)
    return ended.why ? { state: 'failed', why: ended.why, again } : { state: 'stopped', again };
  return {
    state: 'working',
    share,
    stop: () => {
      abort.current?.abort();
      setEnded({ of: records });
    },
  };
}
