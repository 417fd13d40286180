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
      title: printable(s.title),
      description: s.lines.slice(0, 60).map(printable).join('\n'),
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
        description: escaped(printable(s.title)),
        trigger: { minutes, before: true },
      })),
    }),
  );
  const { error, value } = createEvents(events);
  return value
    ? good(foldedByOctets(value))
    : bad('calendar', `The calendar could not be written: ${error?.message ?? 'no reason given'}.`);
}

/** Without control characters, which a calendar may not hold (RFC 5545, 3.1): each becomes a space. */
const printable = (words: string): string => words.replace(/\p{Cc}/gu, ' ');

/** A text value as RFC 5545, 3.3.11 writes it; the library does so for all but those of alarms. */
const escaped = (words: string): string => words.replace(/[\\;,]/g, '\\$&');

/** The longest line, octets without its break (RFC 5545, 3.1). */
const MOST_OCTETS = 75;

/** The same file with its lines folded anew: by octets, between characters. */
function foldedByOctets(file: string): string {
  const octets = new TextEncoder();
  return file
    .replace(/\r\n[ \t]/g, '')
    .split('\r\n')
    .map(line => {
      let [out, length] = ['', 0];
      for (const character of line) {
        const more = octets.encode(character).length;
        if (length + more > MOST_OCTETS) [out, length] = [`${out}\r\n `, 1];
        out += character;
        length += more;
      }
      return out;
    })
    .join('\r\n');
}
