import { useState } from 'react';
import { about, corrected, type HandWork, type Patch, type ReadPhoto } from '../../../core/trial/index.ts';
import { useMaps } from '../../../store/index.ts';
import { useNotice } from '../../ui/notices.tsx';
import { useRecord } from '../../workshop/use-record.ts';
import { useTrial } from '../view.tsx';

const NOTHING: HandWork = { rejected: [], drawn: [] };

/** What a hand puts right in the reading of a patch: as it was kept, and as it is being changed. */
export function useCorrections(patch: Patch, found: ReadPhoto | undefined) {
  const { records, workshop, plan } = useTrial();
  const record = useRecord(workshop, plan.id);
  const tell = useNotice();
  const id = found?.reading.id ?? '';
  const { data: maps } = useMaps(workshop, plan.id, id);
  const last = about(records, patch.code, 'correction').findLast(c => c.reading === id);
  const [draft, setDraft] = useState<HandWork>();
  const [drawing, setDrawing] = useState<'bare' | 'landed'>();
  const machine = found?.machine ?? found?.reading.reading;
  const hand = draft ?? last ?? NOTHING;
  const result = machine && maps ? corrected(machine, maps, hand) : undefined;
  return {
    machine,
    hand,
    drawing,
    setDrawing,
    /** What would come of it; nothing where the maps of the reading are not there. */
    result,
    isChanged: draft !== undefined,
    isKept: last !== undefined,
    turn: (i: number) =>
      setDraft({
        ...hand,
        rejected: hand.rejected.includes(i) ? hand.rejected.filter(k => k !== i) : [...hand.rejected, i],
      }),
    draw: (outline: HandWork['drawn'][number]['outline']) => {
      setDraft({ ...hand, drawn: [...hand.drawn, { isBare: drawing === 'bare', outline }] });
      setDrawing(undefined);
    },
    leave: () => {
      setDraft(undefined);
      setDrawing(undefined);
    },
    keep: async () => {
      if (!result) return;
      const { rejected, drawn } = hand;
      const isKept = await record.add([
        { kind: 'correction', patch: patch.code, reading: id, rejected, drawn, ...result },
      ]);
      if (!isKept) return;
      setDraft(undefined);
      tell({ say: 'Your corrections count from now on. The machine’s own reading is kept beside them.' });
    },
    takeBack: () => last && void record.add([{ kind: 'undo', patch: patch.code, of: last.id }]),
  };
}
