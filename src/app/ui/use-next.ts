import { useMemo, useSyncExternalStore } from 'react';
import { type AtHand, type Next, nameOf, whatNext } from '../../core/advice/index.ts';
import type { Trialled } from '../../core/progress/index.ts';
import type { Working } from '../../core/schedule/index.ts';
import { atHandIn, followAtHand, useUnderWay, type WorkshopName } from '../../store/index.ts';
import { useWorking } from './use-working.ts';

/** Who stands at the bench stays this long, whatever their sittings say. */
const STAYS_MS = 4 * 3_600_000;
/** An answer holds for so long, if nothing happens. */
const HOLDS_MS = 5000;

interface Asked {
  readonly trials: readonly Trialled[];
  readonly working: Working;
  readonly atHand: AtHand | undefined;
  readonly aside: ReadonlySet<string> | undefined;
}

const kept = new Map<string, Asked & { readonly at: number; readonly next: Next }>();

const sameTrials = (a: readonly Trialled[], b: readonly Trialled[]) =>
  a.length === b.length && a.every((t, i) => t.plan === b[i].plan && t.records === b[i].records);

/**
 * What these hands do next, over all these trials. The one answer: the opening view, Make and the bench all
 * ask here, and it stays until something happens or five seconds are over.
 */
export function nextIn(hands: string, asked: Asked, now: number): Next {
  const old = kept.get(hands);
  const { action } = old?.next ?? {};
  const isOver = action?.kind === 'wait' && now >= action.until;
  if (
    old &&
    sameTrials(old.trials, asked.trials) &&
    old.working === asked.working &&
    old.atHand === asked.atHand &&
    old.aside === asked.aside &&
    now - old.at < HOLDS_MS &&
    now >= old.at &&
    !isOver
  )
    return old.next;
  const before =
    old && action && action.kind !== 'finished' && old.next.trial
      ? nameOf({
          trial: old.next.trial.id,
          patch: action.patch.code,
          step: action.link.step.id,
          round: action.link.round,
        })
      : undefined;
  const next = whatNext(asked.trials, asked.working, now, {
    atHand: asked.atHand,
    before,
    hereUntil: now + STAYS_MS,
    ...(asked.aside ? { aside: asked.aside } : {}),
  });
  kept.set(hands, { ...asked, at: now, next });
  return next;
}

/** What the hands are at in a workshop, here or in another tab. */
export const useAtHand = (workshop: WorkshopName): AtHand | undefined =>
  useSyncExternalStore(followAtHand, () => atHandIn(workshop));

/** What the hands do next, over all trials under way and the one that is open; `here` when all of them are known. */
export function useNext(
  workshop: WorkshopName,
  now: number,
  open?: Trialled,
  aside?: ReadonlySet<string>,
): Next & { readonly here: boolean } {
  const { trials, here } = useUnderWay(workshop);
  const working = useWorking(workshop);
  const atHand = useAtHand(workshop);
  const { plan, records } = open ?? {};
  const all = useMemo(() => {
    if (!plan || !records) return trials;
    const own = { plan, records };
    return trials.some(t => t.plan.id === plan.id)
      ? trials.map(t => (t.plan.id === plan.id ? own : t))
      : [...trials, own];
  }, [trials, plan, records]);
  const next = nextIn(workshop, { trials: all, working, atHand, aside }, now);
  // While another trial only waits, the one that is open says what it waits for itself.
  if (!plan || !records || next.action.kind !== 'wait' || next.trial?.id === plan.id)
    return { ...next, here };
  const own = all.filter(t => t.plan.id === plan.id);
  const alone = nextIn(`${workshop} ${plan.id}`, { trials: own, working, atHand, aside }, now);
  return { ...(alone.action.kind === 'finished' ? next : alone), here };
}
