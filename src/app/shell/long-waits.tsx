import { useEffect, useRef } from 'react';
import { useLocation } from 'react-router';
import { callsBetween } from '../../core/drying/index.ts';
import { useUnderWay, type WorkshopName } from '../../store/index.ts';
import { notify } from '../ui/notify.ts';
import { useNow } from '../workshop/use-now.ts';

const EVERY_MS = 15_000;

/** Tells by a notification when a long wait of any trial is over or its window is about to close, on whatever page; an open bench tells of its own. */
export function LongWaits({ workshop }: { workshop: WorkshopName }) {
  const { pathname } = useLocation();
  const { trials } = useUnderWay(workshop);
  const now = useNow(EVERY_MS);
  const before = useRef(now);
  useEffect(() => {
    const last = before.current;
    before.current = now;
    for (const call of callsBetween(trials, last, now).filter(
      c => pathname !== `/w/${workshop}/t/${c.trial}/bench`,
    ))
      void notify(call.words, call.tag, `/w/${workshop}/t/${call.trial}`);
  }, [now, trials, workshop, pathname]);
  return null;
}
