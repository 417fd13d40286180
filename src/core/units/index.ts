export {
  type Air,
  coatFactor,
  dryingFactor,
  dryingRange,
  REFERENCE_AIR,
  REFERENCE_COAT_MM,
  saturationPressure,
  vapourPressureDeficit,
} from './air.ts';
export { type AirHistory, airAt, driedBetween, driedBy, type ExpectedAir, knownAt } from './air-history.ts';
export { type Column, columnOf } from './column.ts';
export { type Sides, sidesOf, sidesWords } from './sides.ts';

/** The measures people read; everything inside is in mm, °C and mL. */
export type System = 'metric' | 'imperial';

const number = (value: number, digits: number, locale?: string) =>
  new Intl.NumberFormat(locale, { minimumFractionDigits: digits, maximumFractionDigits: digits }).format(
    value,
  );

/**
 * A length given in mm, as `40 mm` or `1.57 in`.
 *
 * @example length(25.4, 'imperial', 'en-GB'); // => '1.00 in'
 */
export const length = (mm: number, system: System, locale?: string): string =>
  system === 'metric' ? `${number(mm, mm % 1 ? 1 : 0, locale)} mm` : `${number(mm / 25.4, 2, locale)} in`;

/**
 * The thickness of a coat given in mm, fine enough to tell coats apart: `0.25 mm` or `0.010 in`.
 *
 * @example thickness(0.4, 'metric', 'en-GB'); // => '0.4 mm'
 */
export const thickness = (mm: number, system: System, locale?: string): string =>
  system === 'metric'
    ? `${new Intl.NumberFormat(locale, { maximumFractionDigits: 2 }).format(mm)} mm`
    : `${number(mm / 25.4, 3, locale)} in`;

/**
 * A temperature given in °C.
 *
 * @example temperature(21, 'imperial', 'en-GB'); // => '70 °F'
 */
export const temperature = (celsius: number, system: System, locale?: string): string =>
  system === 'metric' ? `${number(celsius, 0, locale)} °C` : `${number(celsius * 1.8 + 32, 0, locale)} °F`;

/**
 * A volume given in mL; US fluid ounces (29.5735 mL).
 *
 * @example volume(30, 'metric', 'en-GB'); // => '30 mL'
 */
export const volume = (ml: number, system: System, locale?: string): string =>
  system === 'metric'
    ? `${number(ml, ml < 10 ? 1 : 0, locale)} mL`
    : `${number(ml / 29.5735, 2, locale)} fl oz`;

const MEASURE =
  /(?<![\d.])(\d+(?:\.\d+)?|_+)(?:( × |–| to )(\d+(?:\.\d+)?))? (mm²|cm²|dm²|mm|cm|mL|°C)(?![\w²])/g;

/** What a measure becomes: value, places after the point, unit. Thin things are said in thousandths of an inch. */
const TO_IMPERIAL: Record<string, (v: number) => readonly [value: number, places: number, unit: string]> = {
  mm: v => [v / 25.4, v < 2.54 ? 3 : 2, 'in'],
  cm: v => [v / 2.54, 2, 'in'],
  'mm²': v => [v / 645.16, v < 64 ? 3 : 2, 'in²'],
  'cm²': v => [v / 6.4516, 2, 'in²'],
  'dm²': v => [v / 0.064516, 1, 'in²'],
  mL: v => [v / 29.5735, 2, 'fl oz'],
  '°C': v => [v * 1.8 + 32, 0, '°F'],
};

/**
 * A text with every measure in it (`60 × 40 mm`, `1–2 mm`, `4.1 dm²`, `15 mL`, `21 °C`) in the maker's own.
 *
 * @example measured('within 3 mm', 'metric', 'en-GB'); // => 'within 3 mm'
 */
export function measured(text: string, system: System, locale?: string): string {
  if (system === 'metric') return text;
  return text.replace(MEASURE, (_, first: string, between = '', second: string | undefined, unit: string) => {
    const into = (figure: string) => {
      // A line to write on has a unit too.
      if (figure.startsWith('_')) return { said: figure, name: TO_IMPERIAL[unit](0)[2] };
      const [value, places, name] = TO_IMPERIAL[unit](Number(figure));
      return { said: number(value, places, locale), name };
    };
    const { said, name } = into(first);
    return `${said}${between}${second === undefined ? '' : into(second).said} ${name}`;
  });
}

/**
 * A time span given in minutes, in the unit a maker would say: `45 s`, `2 min 10 s`, `12 min`, `6 h`, `2 days`. Below
 * ten minutes to five seconds.
 *
 * @example span(90); // => '1.5 h'
 */
export function span(minutes: number): string {
  const m = Math.abs(minutes);
  if (m < 1.5) return `${Math.round(m * 60)} s`;
  if (m < 9.95) {
    const seconds = Math.round(m * 12) * 5;
    const [whole, rest] = [Math.floor(seconds / 60), seconds % 60];
    return `${whole} min${rest ? ` ${rest} s` : ''}`;
  }
  if (m < 90) return `${Math.round(m)} min`;
  if (m < 60 * 36) {
    const hours = m / 60;
    return `${hours < 10 && Math.abs(hours - Math.round(hours)) > 0.05 ? hours.toFixed(1) : Math.round(hours)} h`;
  }
  const days = m / 1440;
  return `${days < 10 && Math.abs(days - Math.round(days)) > 0.05 ? days.toFixed(1) : Math.round(days)} days`;
}

/**
 * A clock face from milliseconds: `4:05`, `1:02:09`; negative spans keep their sign.
 *
 * @example clock(65_000); // => '1:05'
 */
export function clock(ms: number): string {
  const total = Math.round(Math.abs(ms) / 1000);
  const s = total % 60;
  const m = Math.floor(total / 60) % 60;
  const h = Math.floor(total / 3600);
  const two = (n: number) => String(n).padStart(2, '0');
  return `${ms < 0 ? '−' : ''}${h ? `${h}:${two(m)}` : m}:${two(s)}`;
}
