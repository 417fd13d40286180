import { createEvents, type EventAttributes } from 'ics';
import { bad, good, type Outcome } from '../outcome/index.ts';
import type { Session } from './sessions.ts';

const utc = (ms: number): [number, number, number, number, number] => {
  const d = new Date(ms);
  return [d.getUTCFullYear(), d.getUTCMonth() + 1, d.getUTCDate(), d.getUTCHours(), d.getUTCMinutes()];
};

/**
 * Sessions as an iCalendar file (RFC 5545) with alarms. Written again it updates the same events: stable UIDs, and
 * `sequence` has to grow (the number of a trial's records does). Fails when there is nothing to write.
 */
export function calendarOf(sessions: readonly Session[], sequence: number, stamp: number): Outcome<string> {
  if (!sessions.length)
    return bad('no-sessions', 'Nothing is left to do, so there is nothing for a calendar.');
  const events = sessions.map(
    (s): EventAttributes => ({
      uid: s.uid,
      sequence,
      title: s.title,
      description: s.lines.slice(0, 60).join('\n'),
      start: utc(s.from),
      end: utc(s.to),
      startInputType: 'utc',
      endInputType: 'utc',
      startOutputType: 'utc',
      endOutputType: 'utc',
      created: utc(stamp),
      lastModified: utc(stamp),
      calName: 'Wet Test',
      productId: 'wet-test',
      alarms: s.alarms.map(minutes => ({
        action: 'display' as const,
        description: s.title,
        trigger: { minutes, before: true },
      })),
    }),
  );
  const { error, value } = createEvents(events);
  return value
    ? good(value)
    : bad('calendar', `The calendar could not be written: ${error?.message ?? 'no reason given'}.`);
}
