import { DIMENSIONS, type Dimension, type Kind, type Quantity } from './words.ts';

/** The units that people read; everything inside is in mm, mm², dm², mL, g and °C. */
interface Unit {
  /** Where two units are called the same. */
  readonly name?: string;
  /** So many of the inner unit are one of these … */
  readonly per: number;
  /** … and this is added, for degrees. */
  readonly plus?: number;
  /** Places after the point of a value in the inner unit where nobody said how exact it is; nothing: as it is, to two. */
  readonly places?: (inner: number) => number;
  /** By how much a field steps. */
  readonly step: number;
}

const UNITS = {
  mm: { per: 1, step: 1 },
  in: { per: 25.4, places: mm => (mm < 2.54 ? 3 : 2), step: 0.25 },
  'mm²': { per: 1, step: 1 },
  'in²': { per: 645.16, places: mm2 => (mm2 < 64 ? 3 : 2), step: 0.01 },
  'dm²': { per: 1, step: 1 },
  'in² of dm²': { name: 'in²', per: 0.064516, places: () => 1, step: 1 },
  mL: { per: 1, step: 1 },
  // US fluid ounces.
  'fl oz': { per: 29.5735, places: () => 2, step: 0.1 },
  g: { per: 1, step: 0.1 },
  '°C': { per: 1, step: 1 },
  '°F': { per: 1 / 1.8, plus: 32, places: () => 0, step: 1 },
} as const satisfies Record<string, Unit>;
type UnitName = keyof typeof UNITS;

const METRIC = {
  length: 'mm',
  thickness: 'mm',
  spot: 'mm²',
  area: 'dm²',
  volume: 'mL',
  weight: 'g',
  temperature: '°C',
} as const satisfies Record<Dimension, UnitName>;

/** The measures people read, each with the units it is made of; another is another line. */
const MEASURES = {
  metric: METRIC,
  imperial: {
    ...METRIC,
    ...{ length: 'in', thickness: 'in', spot: 'in²', area: 'in² of dm²', volume: 'fl oz', temperature: '°F' },
  },
  'metric-fahrenheit': { ...METRIC, temperature: '°F' },
} as const satisfies Record<string, Readonly<Record<Dimension, UnitName>>>;

/** The measures somebody reads. */
export type System = keyof typeof MEASURES;
export const SYSTEMS = Object.keys(MEASURES) as [System, ...System[]];

/** Who reads: in which measures, with which marks in numbers (a BCP 47 tag; nothing: a point, and no mark between thousands). */
export interface Reader {
  readonly system: System;
  readonly locale?: string;
}

/** What everything is written in where nobody reads: files, logs, commands. */
export const METRIC_READER: Reader = { system: 'metric' };

/** A unit as a field of a form needs it. */
export interface FieldUnit {
  readonly name: string;
  readonly step: number;
  /** So many of the inner unit are one of these, for what begins at nothing. */
  readonly per: number;
  /** What the field shows of a value in the inner unit, and back. */
  shown(inner: number): number;
  inner(shown: number): number;
}

/**
 * The unit a reader has for something, for a field that is filled in.
 *
 * @example unitFor('temperature', 'imperial').shown(21); // => 69.8
 * @example unitFor('length', 'imperial').inner(2); // => 50.8
 */
export function unitFor(dimension: Dimension, system: System): FieldUnit {
  const unit = MEASURES[system][dimension];
  const { per, plus = 0, step }: Unit = UNITS[unit];
  return {
    ...{ name: nameOf(unit), per, step: unit === 'in' && dimension === 'thickness' ? THIN_STEP_IN : step },
    shown: inner => Number((inner / per + plus).toPrecision(12)),
    inner: shown => Number(((shown - plus) * per).toPrecision(12)),
  };
}

/** Coats are told apart by fewer than that. */
const THIN_STEP_IN = 0.002;

/**
 * What a reader's measures are called where they are chosen: in short, and in words.
 *
 * @example systemName('imperial'); // => { short: 'in · °F', words: 'inches and °F' }
 */
export function systemName(system: System): { readonly short: string; readonly words: string } {
  const { length, temperature } = MEASURES[system];
  return {
    short: `${length} · ${temperature}`,
    words: `${length === 'in' ? 'inches' : 'millimetres'} and ${temperature}`,
  };
}

/**
 * The measures that come after these where one goes through them.
 *
 * @example systemAfter('metric'); // => 'imperial'
 */
export const systemAfter = (system: System): System =>
  SYSTEMS[(SYSTEMS.indexOf(system) + 1) % SYSTEMS.length];

const isDimension = (kind: Kind): kind is Dimension => (DIMENSIONS as readonly string[]).includes(kind);

/** A figure with its marks; without a locale a point, and nothing between thousands. */
const figure = (value: number, least: number, most: number, locale?: string): string =>
  new Intl.NumberFormat(locale ?? 'en-GB', {
    minimumFractionDigits: least,
    maximumFractionDigits: most,
    useGrouping: locale !== undefined,
  }).format(value);

/** Places after the point of what was not said to be known to any. */
const MOST_PLACES = 2;

/** What is written on by hand. */
const LINE = '____';

/** A value of a dimension as a figure, without its unit. */
function shownAs(inner: number, name: UnitName, places: number | undefined, locale?: string): string {
  const { per, plus = 0, places: own }: Unit = UNITS[name];
  const value = inner / per + plus;
  const digits = own ? own(inner) : places;
  return digits === undefined ? figure(value, 0, MOST_PLACES, locale) : figure(value, digits, digits, locale);
}

/**
 * A quantity as its reader reads it.
 *
 * @example written({ kind: 'length', value: 60, by: 40 }, { system: 'imperial' }); // => '2.36 × 1.57 in'
 * @example written({ kind: 'count', value: 1, noun: ['patch', 'patches'] }); // => '1 patch'
 */
export function written(quantity: Quantity, reader: Reader = METRIC_READER): string {
  const { kind, value, to, by, places, noun } = quantity;
  const { locale } = reader;
  if (kind === 'give') return written({ ...quantity, kind: quantity.of ?? 'number' }, reader);
  if (kind === 'span' && places !== undefined) return `${figure(value / 60, 0, places, locale)} h`;
  if (kind === 'span') return to === undefined ? span(value) : `${span(value)} to ${span(to)}`;
  if (kind === 'sure') return `${Math.min(99, Math.max(1, Math.round(value)))} %`;
  const unit = isDimension(kind) ? MEASURES[reader.system][kind] : undefined;
  const one = (v: number) => {
    if (Number.isNaN(v)) return LINE;
    return unit ? shownAs(v, unit, places, locale) : figure(v, places ?? 0, places ?? MOST_PLACES, locale);
  };
  const figures = `${one(value)}${to === undefined ? '' : `–${one(to)}`}${by === undefined ? '' : ` × ${one(by)}`}`;
  const [single, several] = noun ?? NOUNS[kind] ?? ['', ''];
  const name = unit ? nameOf(unit) : one(to ?? value) === '1' ? single : several;
  if (quantity.bare) return figures;
  return kind === 'colour' ? `ΔE ${figures}` : name ? `${figures} ${name}` : figures;
}

const nameOf = (unit: UnitName): string => (UNITS[unit] as Unit).name ?? unit;

/** What stands behind numbers of a kind, one and several. */
const NOUNS: Partial<Record<Kind, readonly [one: string, several: string]>> = {
  ...{ share: ['%', '%'], humidity: ['%', '%'] },
  points: ['point', 'points'],
  tenths: ['times in 10', 'times in 10'],
  work: ['min', 'min'],
};

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
