import { useEffect, useState } from 'react';

/** The present moment in ms, renewed every `every` ms. */
export function useNow(every = 1000): number {
  const [now, setNow] = useState(Date.now);
  useEffect(() => {
    const timer = setInterval(() => setNow(Date.now()), every);
    return () => clearInterval(timer);
  }, [every]);
  return now;
}

/** A moment as people say it: `14:05`, or with the day when it is not today. */
export function moment(ms: number, now: number): string {
  const time = new Intl.DateTimeFormat(undefined, { hour: '2-digit', minute: '2-digit' }).format(ms);
  if (new Date(ms).toDateString() === new Date(now).toDateString()) return time;
  return `${new Intl.DateTimeFormat(undefined, { weekday: 'short', day: 'numeric', month: 'short' }).format(ms)}, ${time}`;
}
