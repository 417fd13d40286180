import { useState } from 'react';
import type { Outcome } from '../../../core/outcome/index.ts';
import type { Change } from '../../../core/trial/index.ts';
import { asNotice, useNotice } from '../../ui/notices.tsx';
import { useRecord } from '../../workshop/use-record.ts';
import { useTrial } from '../view.tsx';

/** Changes the open trial: each change is a record with its reason, and can be taken back. */
export function useChange() {
  const { workshop, made } = useTrial();
  const record = useRecord(workshop, made.id);
  const tell = useNotice();
  const [why, setWhy] = useState('');
  return {
    busy: record.busy,
    why,
    setWhy,
    /** Says whether the change was made. */
    change: async (found: Outcome<Change>, said: string): Promise<boolean> => {
      if (!found.ok) {
        tell(asNotice(found.problem));
        return false;
      }
      const reason = why.trim();
      const draft = {
        kind: 'change',
        patch: null,
        change: found.value,
        ...(reason ? { why: reason } : {}),
      } as const;
      if (!(await record.add([draft]))) return false;
      setWhy('');
      tell({ say: said });
      return true;
    },
    takeBack: (of: string) => record.add([{ kind: 'undo', patch: null, of }]),
  };
}
