import { useCallback, useEffect, useRef, useState } from 'react';
import { type RecordDraft, useAppend, type WorkshopName } from '../../store/index.ts';
import { useAttempt } from './notices.tsx';

/** Nothing on the screen changes for a write that takes less. */
const SHOW_BUSY_MS = 150;

/**
 * Records what happened in a trial. `add` says whether it was written; where it was not, the notice says why. While
 * one is being written no other is taken. `busy` is for showing it, once it takes long.
 */
export function useRecord(workshop: WorkshopName, trial: string) {
  const append = useAppend(workshop, trial);
  const attempt = useAttempt();
  const writing = useRef(false);
  const timer = useRef<ReturnType<typeof setTimeout>>(undefined);
  const [busy, setBusy] = useState(false);
  useEffect(() => () => clearTimeout(timer.current), []);
  const add = useCallback(
    async (drafts: readonly RecordDraft[], files?: ReadonlyMap<string, Blob>): Promise<boolean> => {
      if (writing.current) return false;
      writing.current = true;
      timer.current = setTimeout(() => setBusy(true), SHOW_BUSY_MS);
      try {
        return await attempt(() => append(drafts, files));
      } finally {
        writing.current = false;
        clearTimeout(timer.current);
        setBusy(false);
      }
    },
    [append, attempt],
  );
  return { busy, add };
}
