export {
  type Air,
  dryingFactor,
  dryingRange,
  REFERENCE_AIR,
  saturationPressure,
  vapourPressureDeficit,
} from './air.ts';

/** The measures people read; everything inside is in mm, °C and mL. */
export type System = 'metric' | 'imperial';

const number = (value: number, digits: number, locale?: string) =>
  new Intl.NumberFormat(locale, { minimumFractionDigits: digits, maximumFractionDigits: digits }).format(
    value,
  );

/** A length given in mm, as `40 mm` or `1.57 in`. */
export const length = (mm: number, system: System, locale?: string): string =>
  system === 'metric' ? `${number(mm, mm % 1 ? 1 : 0, locale)} mm` : `${number(mm / 25.4, 2, locale)} in`;

/** The thickness of a coat given in mm, fine enough to tell coats apart: `0.25 mm` or `0.010 in`. */
export const thickness = (mm: number, system: System, locale?: string): string =>
  system === 'metric'
    ? `${new Intl.NumberFormat(locale, { maximumFractionDigits: 2 }).format(mm)} mm`
    : `${number(mm / 25.4, 3, locale)} in`;

/** A temperature given in °C. */
export const temperature = (celsius: number, system: System, locale?: string): string =>
  system === 'metric' ? `${number(celsius, 0, locale)} °C` : `${number(celsius * 1.8 + 32, 0, locale)} °F`;

/** A volume given in mL; US fluid ounces (29.5735 mL). */
export const volume = (ml: number, system: System, locale?: string): string =>
  system === 'metric'
    ? `${number(ml, ml < 10 ? 1 : 0, locale)} mL`
    : `${number(ml / 29.5735, 2, locale)} fl oz`;

/** A time span given in minutes, in the unit a maker would say: `45 s`, `12 min`, `6 h`, `2 days`. */
export function span(minutes: number): string {
  const m = Math.abs(minutes);
  if (m < 1.5) return `${Math.round(m * 60)} s`;
  if (m < 90) return `${Math.round(m)} min`;
  if (m < 60 * 36) {
    const hours = m / 60;
    return `${hours < 10 && Math.abs(hours - Math.round(hours)) > 0.05 ? hours.toFixed(1) : Math.round(hours)} h`;
  }
  const days = m / 1440;
  return `${days < 10 && Math.abs(days - Math.round(days)) > 0.05 ? days.toFixed(1) : Math.round(days)} days`;
}

/** A clock face from milliseconds: `4:05`, `1:02:09`; negative spans keep their sign. */
export function clock(ms: number): string {
  const total = Math.round(Math.abs(ms) / 1000);
  const s = total % 60;
  const m = Math.floor(total / 60) % 60;
  const h = Math.floor(total / 3600);
  const two = (n: number) => String(n).padStart(2, '0');
  return `${ms < 0 ? '−' : ''}${h ? `${h}:${two(m)}` : m}:${two(s)}`;
}
