import { useEffect, useRef, useState } from 'react';
import { about } from '../../../core/trial/index.ts';
import { workshopOf } from '../../../store/index.ts';
import { lookInWorker } from '../../../workers/index.ts';
import type { TrialView } from '../view.tsx';
import type { Reader } from './use-reader.ts';

/** Photos that were looked at since the page was loaded: they are not looked at again. */
const looked = new Set<string>();

/** Reads photos that the bench took through a card, one after another, while nothing else is being read. */
export function useBenchPhotos(view: TrialView, reader: Reader, isReady: boolean): void {
  const { plan, records, workshop } = view;
  const going = useRef(false);
  const [done, setDone] = useState(0);
  // biome-ignore lint/correctness/useExhaustiveDependencies: looks again whenever the records or the queue have changed
  useEffect(() => {
    if (!isReady || reader.busy || going.current) return;
    // One whose reading was taken back was looked at already.
    const read = new Set(records.flatMap(r => (r.kind === 'reading' ? [r.photo] : [])));
    const next = plan.patches
      .flatMap(p => about(records, p.code, 'photo'))
      .find(photo => !read.has(photo.photo) && !looked.has(`${plan.id}/${photo.photo}`));
    if (!next?.patch) return;
    const code = next.patch;
    looked.add(`${plan.id}/${next.photo}`);
    const stop = new AbortController();
    going.current = true;
    const look = async () => {
      const file = await workshopOf(workshop).photo(plan.id, next.photo);
      const seen = file && (await lookInWorker(file, stop.signal));
      if (!file || !seen?.ok || seen.value.holds !== 'card') return;
      const { stage, round, worn } = next;
      reader.again(next.photo, next.name, { code }, file, {
        ...{ stage, roundOf: () => round },
        ...(worn ? { worn } : {}),
      });
    };
    look()
      .catch(() => {})
      .finally(() => {
        going.current = false;
        setDone(n => n + 1);
      });
  }, [records, reader.busy, isReady, done]);
}
