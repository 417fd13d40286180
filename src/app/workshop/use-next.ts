import { useMemo, useSyncExternalStore } from 'react';
import { Answers, type AtHand, type Next } from '../../core/advice/index.ts';
import type { Trialled } from '../../core/progress/index.ts';
import { atHandIn, followAtHand, useUnderWay, type WorkshopName } from '../../store/index.ts';
import { useWorking } from './use-working.ts';

/** The one answer: the opening view, Make and the bench all ask here. */
const answers = new Answers();

/** What the hands are at in a workshop, here or in another tab. */
export const useAtHand = (workshop: WorkshopName): AtHand | undefined =>
  useSyncExternalStore(followAtHand, () => atHandIn(workshop));

/** All trials under way, and the one that is open among them; the same list until something changes. */
export function useTogether(
  workshop: WorkshopName,
  open?: Trialled,
): { readonly trials: readonly Trialled[]; readonly here: boolean } {
  const { trials, here } = useUnderWay(workshop);
  const { plan, records } = open ?? {};
  return useMemo(() => {
    if (!plan || !records) return { trials, here };
    const own = { plan, records };
    const isAmong = trials.some(t => t.plan.id === plan.id);
    const all = trials.map(t => (t.plan.id === plan.id ? own : t));
    return { trials: isAmong ? all : [...all, own], here };
  }, [trials, plan, records, here]);
}

/** What the hands do next, over all trials under way and the one that is open; `here` when all of them are known. */
export function useNext(
  workshop: WorkshopName,
  now: number,
  open?: Trialled,
  aside?: ReadonlySet<string>,
): Next & { readonly here: boolean } {
  const { trials, here } = useTogether(workshop, open);
  const working = useWorking(workshop);
  const atHand = useAtHand(workshop);
  const asked = { trials, working, atHand, aside };
  const next = open ? answers.nextAt(workshop, open.plan.id, asked, now) : answers.next(workshop, asked, now);
  return { ...next, here };
}
