import { useEffect, useRef } from 'react';
import {
  type AtHand,
  actionName,
  BLANK,
  comesUp,
  type Next,
  SETTLED_MS,
  takenUp,
} from '../../core/advice/index.ts';
import { atHandIn, presentMs, setAtHand } from '../../store/index.ts';
import type { TrialView } from '../trial/view.tsx';

/**
 * What stands on the screen, since when, and how it came there; and what stands there is what the hands are at, until it
 * is done, put aside, or another is chosen. `mine` where this tab may say so.
 */
export function useScreen(
  workshop: TrialView['workshop'],
  next: Next,
  known: AtHand | undefined,
  mine: boolean,
) {
  const screen = useRef(BLANK);
  screen.current = comesUp(screen.current, next, presentMs(), known);
  const { isAtHand } = next;
  const waits = next.action.kind !== 'do';
  const latest = useRef(next);
  latest.current = next;
  const name = actionName(next);
  // biome-ignore lint/correctness/useExhaustiveDependencies: the name stands for the action
  useEffect(() => {
    if (!mine || isAtHand || waits) return;
    const timer = setTimeout(() => {
      const hand = takenUp(screen.current, latest.current, presentMs());
      if (hand && atHandIn(workshop) === known) setAtHand(workshop, hand);
      // A timer may be a little early by the clock.
    }, SETTLED_MS + 20);
    return () => clearTimeout(timer);
  }, [workshop, name, waits, isAtHand, mine, known]);
  return screen;
}
