import { useEffect, useState } from 'react';
import { presentMs } from '../../store/index.ts';

/** The present moment in ms, renewed every `every` ms. */
export function useNow(every = 1000): number {
  const [now, setNow] = useState(presentMs);
  useEffect(() => {
    const tick = () => setNow(presentMs());
    const timer = setInterval(tick, every);
    // A tab that slept catches up as soon as it is looked at.
    document.addEventListener('visibilitychange', tick);
    return () => {
      clearInterval(timer);
      document.removeEventListener('visibilitychange', tick);
    };
  }, [every]);
  return now;
}
