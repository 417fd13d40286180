import { useRef } from 'react';
import type { Next } from '../../core/advice/index.ts';
import { presentMs } from '../../store/index.ts';

/** Since when an instruction is on the screen, and whether a press called for it. */
export function useShown({ trial, action }: Next) {
  const shown = useRef({ key: '', since: 0, called: true, calls: true });
  const key =
    action.kind === 'finished'
      ? ''
      : `${action.kind} ${trial?.id} ${action.patch.code} ${action.link.step.id} ${action.link.round}`;
  const now = shown.current;
  if (now.key !== key) shown.current = { key, since: presentMs(), called: now.calls, calls: false };
  return shown;
}
