import { useEffect, useMemo, useState } from 'react';
import { type PlanRequest, planTrial } from '../../core/design/index.ts';
import type { Method } from '../../core/methods/index.ts';
import { Cancelled, type Outcome } from '../../core/outcome/index.ts';
import { chanceFrom } from '../../core/random/index.ts';
import type { Shelf } from '../../core/shelf/index.ts';
import type { TrialPlan } from '../../core/trial/index.ts';
import { planInWorker } from '../../workers/index.ts';

export type Planning =
  | { readonly state: 'planned'; readonly result: Outcome<TrialPlan> }
  | {
      readonly state: 'searching';
      readonly share: number;
      readonly stop?: () => void;
      readonly last?: TrialPlan;
    }
  | { readonly state: 'stopped'; readonly again: () => void; readonly last?: TrialPlan };

interface Asked {
  readonly request: PlanRequest;
  readonly shelf: Shelf;
  readonly own: readonly Method[];
}

/** The plan for a request as it is edited: at once where that is quick, in a worker with progress and cancel where it is a search. */
export function usePlan({ request, shelf, own }: Asked): Planning {
  const identity = useMemo(
    () => ({ createdAt: new Date().toISOString(), seed: Math.floor(Math.random() * 2 ** 30) }),
    [],
  );
  const named = useMemo(() => ({ ...request, name: request.name.trim() || 'Untitled' }), [request]);
  const slow = request.design === 'best fraction';
  const quick = useMemo(() => {
    if (slow) return undefined;
    const chance = chanceFrom(identity.seed);
    return planTrial(named, shelf, { createdAt: identity.createdAt, random: () => chance.next() }, own);
  }, [slow, named, shelf, own, identity]);
  const [search, setSearch] = useState<Planning>();
  const [turn, setTurn] = useState(0);
  // The search need not be done again when only words change.
  const key = JSON.stringify({ ...named, name: '', question: '', turn });
  // biome-ignore lint/correctness/useExhaustiveDependencies: the key stands for the request without its words
  useEffect(() => {
    if (!slow) return;
    const control = new AbortController();
    const last = (old: Planning | undefined) =>
      old?.state === 'planned' ? (old.result.ok ? old.result.value : undefined) : old?.last;
    const stop = () => {
      clearTimeout(wait);
      control.abort();
      setSearch(old => ({ state: 'stopped', last: last(old), again: () => setTurn(n => n + 1) }));
    };
    setSearch(old => ({ state: 'searching', share: 0, stop, last: last(old) }));
    const wait = setTimeout(() => {
      planInWorker(
        { request: named, shelf, own, createdAt: identity.createdAt, identity: identity.seed },
        share => {
          if (!control.signal.aborted)
            setSearch(old => ({ state: 'searching', share, stop, last: last(old) }));
        },
        control.signal,
      ).then(
        result => {
          if (!control.signal.aborted) setSearch({ state: 'planned', result });
        },
        error => {
          if (error instanceof Cancelled || control.signal.aborted) return;
          const say = `The planner failed: ${error instanceof Error ? error.message : 'no reason given'}.`;
          setSearch({ state: 'planned', result: { ok: false, problem: { code: 'planner', say } } });
        },
      );
    }, 250);
    return () => {
      clearTimeout(wait);
      control.abort();
    };
  }, [slow, key, shelf, own, identity]);
  if (quick) return { state: 'planned', result: quick };
  if (search?.state === 'planned' && search.result.ok)
    return {
      state: 'planned',
      result: { ok: true, value: { ...search.result.value, name: named.name, question: named.question } },
    };
  return search ?? { state: 'searching', share: 0 };
}
