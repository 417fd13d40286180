import { useCallback, useEffect, useRef, useState } from 'react';
import { type RecordDraft, useAppend, type WorkshopName } from '../../store/index.ts';
import { useAttempt } from '../ui/notices.tsx';
import { OneAtATime } from '../ui/one-at-a-time.ts';

/**
 * Records what happened in a trial. `add` says whether it was written; where it was not, the notice says why. While
 * one is being written no other is taken. `busy` is for showing it, once it takes long.
 */
export function useRecord(workshop: WorkshopName, trial: string) {
  const append = useAppend(workshop, trial);
  const attempt = useAttempt();
  const [busy, setBusy] = useState(false);
  const writes = useRef<OneAtATime>(undefined);
  writes.current ??= new OneAtATime(setBusy);
  useEffect(() => () => writes.current?.leave(), []);
  const add = useCallback(
    async (drafts: readonly RecordDraft[], files?: ReadonlyMap<string, Blob>): Promise<boolean> =>
      writes.current?.run(() => attempt(() => append(drafts, files))) ?? false,
    [append, attempt],
  );
  return { busy, add };
}
