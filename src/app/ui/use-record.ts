import { useCallback } from 'react';
import { type RecordDraft, useAppend, type WorkshopName } from '../../store/index.ts';
import { useAttempt } from './notices.tsx';

/** Records what happened in a trial. `add` says whether it was written; where it was not, the notice says why. */
export function useRecord(workshop: WorkshopName, trial: string) {
  const { mutateAsync, isPending } = useAppend(workshop, trial);
  const attempt = useAttempt();
  const add = useCallback(
    (drafts: readonly RecordDraft[], files?: ReadonlyMap<string, Blob>) =>
      attempt(() => mutateAsync({ drafts, files })),
    [attempt, mutateAsync],
  );
  return { busy: isPending, add };
}
