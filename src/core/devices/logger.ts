import Papa from 'papaparse';
import { bad, good, type Outcome } from '../outcome/index.ts';
import { celsius, humidity, say } from '../say/index.ts';
import type { Air } from '../units/index.ts';

/** The air as a logger's file has it: the mean of its last hour, and over what time. */
export interface LoggedAir {
  readonly air: Air;
  /** When the last row was taken, ms; nothing when the file has no times. */
  readonly until?: number;
  readonly rows: number;
}

const HOUR = 3_600_000;
const MOST_LETTERS = 5_000_000;
const number = (text: string | undefined) => {
  const n = Number(
    String(text ?? '')
      .replace(/[^\d,.+-]/g, '')
      .replace(',', '.'),
  );
  return String(text ?? '').match(/\d/) && Number.isFinite(n) ? n : undefined;
};

const DAY_MONTH =
  /^\s*(\d{1,2})([./-])(\d{1,2})\2(\d{4}|\d{2})\b(?:[ T,]+(\d{1,2}):(\d{2})(?::(\d{2}))?\s*([ap]m)?)?/i;

/** The moment a cell of figures names, with the day or the month first; ms, or NaN. */
function moment(cell: string, dayFirst: boolean): number {
  const m = cell.match(DAY_MONTH);
  if (!m) return Date.parse(cell);
  const [day, month] = (dayFirst ? [m[1], m[3]] : [m[3], m[1]]).map(Number);
  const year = Number(m[4]) + (m[4].length === 2 ? 2000 : 0);
  const half = m[8]?.toLowerCase();
  const hour = half ? (Number(m[5]) % 12) + (half === 'pm' ? 12 : 0) : Number(m[5] ?? 0);
  const at = new Date(year, month - 1, day, hour, Number(m[6] ?? 0), Number(m[7] ?? 0));
  return month <= 12 && at.getDate() === day ? at.getTime() : Number.NaN;
}

/**
 * The times of a log. Whether the day or the month comes first is told by the log itself: read the wrong way its rows
 * name no day at all, or lie months apart. Nothing when some of them cannot be read.
 */
function timesOf(cells: readonly string[]): number[] | undefined {
  const ways = [true, false]
    .map(dayFirst => cells.map(cell => moment(cell, dayFirst)))
    .filter(times => times.length > 0 && times.every(Number.isFinite));
  const span = (times: readonly number[]) =>
    times.reduce((a, b) => Math.max(a, b)) - times.reduce((a, b) => Math.min(a, b));
  return ways.sort((a, b) => span(a) - span(b))[0];
}

/**
 * Reads a data logger's CSV (comma, semicolon or tab; decimal comma or point; °C or °F by its heading): a column whose
 * heading speaks of temperature, one that speaks of humidity, and one of time if there is one. Lines above the headings are
 * passed over. Returns the mean of the last hour; fails in words when a column is missing or a value cannot be.
 */
export function airFromLog(text: string): Outcome<LoggedAir> {
  if (text.length > MOST_LETTERS)
    return bad('log-large', 'This file is too large for a room’s log.', 'Export a shorter time.');
  const rows = Papa.parse<string[]>(text.trim(), { skipEmptyLines: true }).data;
  const isTemp = (cell: string) => /temp|°\s*[cf]/i.test(cell);
  const isHumid = (cell: string) => /hum|feucht|\brh\b|r\.h\./i.test(cell);
  const head = rows.findIndex(row => row.some(isTemp) && row.some(isHumid));
  if (head < 0)
    return bad(
      'log-columns',
      'This file has no columns named temperature and humidity.',
      'Export the log as CSV with its headings.',
    );
  const [temp, humid] = [rows[head].findIndex(isTemp), rows[head].findIndex(isHumid)];
  // Day and time of day may stand in columns of their own.
  const [day, hour] = [/date|day/i, /time/i].map(word => rows[head].findIndex(cell => word.test(cell)));
  const columns = [...new Set([day, hour])].filter(i => i >= 0);
  const isFahrenheit = /°?\s*F\b/.test(rows[head][temp].replace(/temperature|temp/i, ''));
  const all = rows.slice(head + 1).flatMap(row => {
    const t = number(row[temp]);
    const rh = number(row[humid]);
    if (t === undefined || rh === undefined) return [];
    return [{ tempC: isFahrenheit ? (t - 32) / 1.8 : t, rh, when: columns.map(i => row[i] ?? '').join(' ') }];
  });
  if (!all.length) return bad('log-empty', 'This log has no rows with both values.', 'Export it again.');
  const times = timesOf(all.map(r => r.when));
  const until = times?.reduce((a, b) => Math.max(a, b));
  const last = times && until !== undefined ? all.filter((_, i) => times[i] > until - HOUR) : all.slice(-6);
  const mean = (of: 'tempC' | 'rh') => last.reduce((sum, r) => sum + r[of], 0) / last.length;
  const air = { tempC: Math.round(mean('tempC') * 10) / 10, rh: Math.round(mean('rh')) };
  if (!(air.tempC >= -10 && air.tempC <= 50) || !(air.rh >= 0 && air.rh <= 99))
    return bad(
      'log-range',
      say`This log says ${celsius(air.tempC)} and ${humidity(air.rh)}, which no room has.`,
      'Check its columns and units.',
    );
  return good({ air, rows: all.length, ...(until === undefined ? {} : { until }) });
}
