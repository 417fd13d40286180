/** A moment as people say it: `14:05`, or with the day when it is not today. */
export function moment(ms: number, now: number): string {
  const time = new Intl.DateTimeFormat(undefined, { hour: '2-digit', minute: '2-digit' }).format(ms);
  if (new Date(ms).toDateString() === new Date(now).toDateString()) return time;
  return `${new Intl.DateTimeFormat(undefined, { weekday: 'short', day: 'numeric', month: 'short' }).format(ms)}, ${time}`;
}

/** A day as people say it, with its year: `Tue 5 May 2026`. */
export const dayOf = (ms: number): string =>
  new Intl.DateTimeFormat(undefined, {
    weekday: 'short',
    day: 'numeric',
    month: 'short',
    year: 'numeric',
  }).format(ms);
