import { useEffect } from 'react';
import type { AtHand, Next } from '../../core/advice/index.ts';
import { atHandIn, presentMs, setAtHand } from '../../store/index.ts';
import type { TrialView } from '../trial/view.tsx';

/** What was just recorded may not be in what is shown yet, ms. */
const SETTLED_MS = 300;

/** What is on the screen is what the hands are at, until it is done, put aside, or another is chosen. */
export function useHold(
  workshop: TrialView['workshop'],
  { trial, action, isAtHand }: Next,
  known: AtHand | undefined,
  mine: boolean,
) {
  const id = trial?.id;
  const name =
    action.kind === 'do' ? `${id} ${action.patch.code} ${action.link.step.id} ${action.link.round}` : '';
  // biome-ignore lint/correctness/useExhaustiveDependencies: the name stands for the action
  useEffect(() => {
    if (!mine || isAtHand || action.kind !== 'do' || !id) return;
    const since = presentMs();
    const timer = setTimeout(() => {
      if (atHandIn(workshop) !== known) return;
      setAtHand(workshop, {
        ...{ trial: id, patch: action.patch.code, step: action.link.step.id, round: action.link.round },
        since,
      });
    }, SETTLED_MS);
    return () => clearTimeout(timer);
  }, [workshop, name, isAtHand, mine, known]);
}
