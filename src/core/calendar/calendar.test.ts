import { describe, expect, it } from 'vitest';
import { examplePlan } from '../design/example.ts';
import { ProblemError } from '../outcome/index.ts';
import { write } from '../say/index.ts';
import { agendaOf, agendaOfAll, USUAL_WORKING } from '../schedule/index.ts';
import type { TrialRecord } from '../trial/index.ts';
import { sessionsOf } from './index.ts';
import { calendarOf } from './write.ts';

const T0 = Date.parse('2026-05-02T09:00:00.000Z');
const plan = examplePlan({ usual: { ...examplePlan().usual, rounds: 1 } });
const sessions = (records: readonly TrialRecord[] = [], now = T0) => {
  const found = agendaOf(plan, records, USUAL_WORKING, now);
  if (!found.ok) throw new ProblemError(found.problem);
  return sessionsOf([plan], found.value);
};
const file = (sequence = 3) => {
  const made = calendarOf(sessions(), sequence, T0);
  if (!made.ok) throw new ProblemError(made.problem);
  return made.value;
};
/** Lines of the file with its folds undone (RFC 5545, 3.1). */
const lines = (text: string) => text.replace(/\r\n[ \t]/g, '').split('\r\n');

describe('the calendar of a trial', () => {
  it('has an event for every stretch of work that needs hands, none for the drying', () => {
    const all = sessions();
    expect(all.length).toBeGreaterThan(1);
    for (let i = 1; i < all.length; i++) expect(all[i].from - all[i - 1].to).toBeGreaterThan(25 * 60_000 - 1);
    expect(all[0].title).toMatch(/^Berth plates: mark/);
    expect(all.flatMap(s => s.lines)).toHaveLength(12 * 6);
  });

  it('is iCalendar with alarms, in universal time', () => {
    const text = lines(file());
    expect(text[0]).toBe('BEGIN:VCALENDAR');
    expect(text.filter(l => l === 'BEGIN:VEVENT')).toHaveLength(sessions().length);
    expect(text.some(l => /^DTSTART:20260502T09\d\d00Z$/.test(l))).toBe(true);
    expect(text.filter(l => l === 'BEGIN:VALARM').length).toBeGreaterThanOrEqual(sessions().length);
    expect(text.some(l => l === 'TRIGGER:-PT15M')).toBe(true);
    expect(text.filter(l => l.startsWith('TRIGGER')).every(l => /^TRIGGER:-PT\d+M$/.test(l))).toBe(true);
  });

  it('folds by octets between letters, escapes what an alarm says, and holds no control character', () => {
    const title = 'Łódź; žluťoučký, kůň \\ \u0007αβγδ εζηθ ικλμ νξοπ ρστυ φχψω 🪵🪵🪵🪵🪵🪵🪵🪵';
    const [first] = sessions();
    const made = calendarOf([{ ...first, title, lines: ['one\ttab\rreturn', 'two'] }], 1, T0);
    if (!made.ok) throw new ProblemError(made.problem);
    const raw = made.value.split('\r\n');
    expect(Math.max(...raw.map(l => Buffer.byteLength(l)))).toBe(75);
    expect(raw.every(l => !l.includes('\ufffd'))).toBe(true);
    expect(made.value.replace(/\r\n/g, '')).not.toMatch(/\p{Cc}/u);
    const said = title.replace('\u0007', ' ').replace(/[\\;,]/g, '\\$&');
    const text = lines(made.value);
    expect(text.filter(l => l === `SUMMARY:${said}`)).toHaveLength(1);
    expect(text.filter(l => l === `DESCRIPTION:${said}`)).toHaveLength(first.alarms.length);
    expect(text).toContain('DESCRIPTION:one tab return\\ntwo');
  });

  it('rings five minutes before, and a quarter of an hour before what has to be done to the minute', () => {
    const all = sessions();
    const sharp = all.filter(s => s.alarms.length === 2);
    expect(sharp.length).toBeGreaterThan(0);
    for (const s of all) expect(s.alarms).toEqual(sharp.includes(s) ? [15, 5] : [5]);
    // Coating opens a short window; rubbing and looking do not.
    for (const s of all)
      expect(sharp.includes(s), s.what).toBe(/place the print|rub the paper off/.test(s.what));
    const text = lines(file());
    const count = (minutes: number) => text.filter(l => l === `TRIGGER:-PT${minutes}M`).length;
    expect([count(5), count(15)]).toEqual([all.length, sharp.length]);
  });

  it('written again after some work names the same events, with a higher number', () => {
    const uids = (list: ReturnType<typeof sessions>) => list.map(s => s.uid);
    const marked: TrialRecord[] = plan.patches.map((p, i) => ({
      id: `m${i}`,
      at: new Date(T0 + i * 1000).toISOString(),
      kind: 'step',
      patch: p.code,
      step: 'mark',
      round: 1,
    }));
    const later = sessions(marked, T0 + 20 * 60_000);
    expect(uids(later)).toEqual(uids(sessions()));
    expect(later[0].from).not.toBe(sessions()[0].from);
    expect(file(9)).toContain('SEQUENCE:9');
    expect(new Set(uids(sessions())).size).toBe(sessions().length);
  });

  it('names the same events whatever order the pieces were made in', () => {
    const made = (order: readonly string[]): TrialRecord[] =>
      ['mark', 'coat', 'place'].flatMap((step, s) =>
        order.map((patch, i) => ({
          id: `${step}${patch}`,
          at: new Date(T0 + (s * 12 + i) * 60_000).toISOString(),
          kind: 'step',
          patch,
          step,
          round: 1,
        })),
      );
    const codes = [...plan.patches].sort((a, b) => a.order - b.order).map(p => p.code);
    const uids = (order: readonly string[]) => sessions(made(order), T0 + 40 * 60_000).map(s => s.uid);
    const usual = uids(codes);
    expect(usual.length).toBeGreaterThan(1);
    expect(uids([...codes].reverse()).sort()).toEqual([...usual].sort());
    expect(uids([...codes.slice(5), ...codes.slice(0, 5)]).sort()).toEqual([...usual].sort());
  });

  it('of two trials names each event once, and both trials where they are worked together', () => {
    const other = { ...plan, id: 'OTHERTRIAL22', name: 'Hook plates' };
    const found = agendaOfAll(
      [plan, other].map(p => ({ plan: p, records: [] })),
      USUAL_WORKING,
      T0,
    );
    if (!found.ok) throw new ProblemError(found.problem);
    const all = sessionsOf([plan, other], found.value);
    expect(new Set(all.map(s => s.uid)).size).toBe(all.length);
    expect(all.flatMap(s => s.lines)).toHaveLength(2 * 12 * 6);
    const both = all.filter(s => /Berth plates and Hook plates|Hook plates and Berth plates/.test(s.title));
    expect(both.length).toBeGreaterThan(0);
    for (let i = 1; i < all.length; i++) expect(all[i].from).toBeGreaterThan(all[i - 1].to);
  });

  it('is not written when nothing is left to do', () => {
    const made = calendarOf([], 1, T0);
    expect(write(made.ok ? '' : made.problem.say)).toMatch(/Nothing is left to do/);
  });
});
