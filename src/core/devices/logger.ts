import Papa from 'papaparse';
import { bad, good, type Outcome } from '../outcome/index.ts';
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
  const time = rows[head].findIndex(cell => /time|date/i.test(cell));
  const isFahrenheit = /°?\s*F\b/.test(rows[head][temp].replace(/temperature|temp/i, ''));
  const all = rows.slice(head + 1).flatMap(row => {
    const t = number(row[temp]);
    const rh = number(row[humid]);
    if (t === undefined || rh === undefined) return [];
    const at = time >= 0 ? Date.parse(row[time]) : Number.NaN;
    return [{ tempC: isFahrenheit ? (t - 32) / 1.8 : t, rh, at }];
  });
  if (!all.length) return bad('log-empty', 'This log has no rows with both values.', 'Export it again.');
  const times = all.map(r => r.at).filter(Number.isFinite);
  const until = times.length ? Math.max(...times) : undefined;
  const last = until === undefined ? all.slice(-6) : all.filter(r => r.at > until - HOUR);
  const mean = (of: 'tempC' | 'rh') => last.reduce((sum, r) => sum + r[of], 0) / last.length;
  const air = { tempC: Math.round(mean('tempC') * 10) / 10, rh: Math.round(mean('rh')) };
  if (!(air.tempC >= -10 && air.tempC <= 50) || !(air.rh >= 0 && air.rh <= 99))
    return bad(
      'log-range',
      `This log says ${air.tempC} °C and ${air.rh} %, which no room has.`,
      'Check its columns and units.',
    );
  return good({ air, rows: all.length, ...(until === undefined ? {} : { until }) });
}
