import { useEffect, useRef, useState, useSyncExternalStore } from 'react';
import { type Findings, findingsAtHand, keepFindings } from '../../core/findings/index.ts';
import { Cancelled } from '../../core/outcome/index.ts';
import type { TrialPlan, TrialRecord } from '../../core/trial/index.ts';
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

/** What a trial supports, worked out in a worker: what is there already at once, else how far it is, with the way to stop it. */
export function useFindings(plan: TrialPlan, records: readonly TrialRecord[]): Working {
  useFindingsCount();
  const [share, setShare] = useState(0);
  const [ended, setEnded] = useState<{ readonly of: readonly TrialRecord[]; readonly why?: string }>();
  const [turn, setTurn] = useState(0);
  const abort = useRef<AbortController>(undefined);
  const found = findingsAtHand(plan, records);
  const isThere = found !== undefined;
  // biome-ignore lint/correctness/useExhaustiveDependencies: `turn` begins it again
  useEffect(() => {
    if (isThere) return;
    const now = new AbortController();
    abort.current = now;
    setShare(0);
    findingsInWorker(plan, records, setShare, now.signal).then(
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
  }, [plan, records, isThere, turn]);
  if (found) return { state: 'found', findings: found };
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
