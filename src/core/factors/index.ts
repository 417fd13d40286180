import { many, minutes, named, type Quantity, thick, type Words } from '../say/index.ts';
import type { Shelf, ShelfKind } from '../shelf/index.ts';

/** A choice that a method offers besides what is on the shelf, such as where the coat goes. */
export interface Choice {
  readonly id: string;
  readonly name: string;
  /** What speaks for it, in a sentence. */
  readonly says?: Words | undefined;
}

/** The choices a method can offer; each is also something that can be varied. */
export const OPTION_KEYS = ['coatWhere', 'removal', 'water', 'trim'] as const;
export type OptionKey = (typeof OPTION_KEYS)[number];

/** What is set for every patch, whatever its method. */
export const SETTING_KEYS = [
  'printer',
  'donor',
  'medium',
  'coatMm',
  'coatWhere',
  'substrate',
  'preparation',
  'dryHours',
  'pressing',
  'water',
  'removal',
  'rubTool',
  'rounds',
  'finish',
  'trim',
  'copyAgeH',
] as const;
export type SettingKey = (typeof SETTING_KEYS)[number];

/** What can be varied: the method itself, what is printed, and everything that is set. */
export const FACTOR_KEYS = ['method', 'picture', ...SETTING_KEYS] as const;
export type FactorKey = (typeof FACTOR_KEYS)[number];

/** What every patch carries where nothing else is chosen. */
export const TARGET = { id: 'target', name: 'Test target' } as const;

/**
 * Whether something can be varied whatever the method: the method itself, and what is printed.
 *
 * @example ofAnyMethod('picture'); // => true
 */
export const ofAnyMethod = (key: FactorKey): key is 'method' | 'picture' =>
  key === 'method' || key === 'picture';

/** What kind of thing a factor's levels are. */
export type FactorKind = { readonly named?: 'by the method' } & (
  | { readonly name: string; readonly levels: 'methods' | 'pictures' }
  | { readonly name: string; readonly levels: 'items'; readonly shelf: ShelfKind }
  | { readonly name: string; readonly levels: 'options'; readonly option: OptionKey }
  | {
      readonly name: string;
      readonly levels: 'numbers';
      readonly unit: 'h' | 'mm' | '';
      readonly least: number;
      readonly most: number;
      readonly step: number;
      readonly start: readonly number[];
    }
);

const items = (name: string, shelf: ShelfKind): FactorKind => ({ name, levels: 'items', shelf });
const option = (name: string, key: OptionKey): FactorKind => ({ name, levels: 'options', option: key });

/** Everything that can be varied from patch to patch. Numbers are kept in hours, mm or counts. */
export const FACTORS: Record<FactorKey, FactorKind> = {
  method: { name: 'Method', levels: 'methods' },
  picture: { name: 'Picture', levels: 'pictures' },
  printer: items('Printer', 'printers'),
  donor: items('Donor sheet', 'donors'),
  medium: items('Medium', 'mediums'),
  coatMm: {
    name: 'Coat thickness',
    levels: 'numbers',
    unit: 'mm',
    least: 0.05,
    most: 5,
    step: 0.05,
    start: [0.2, 0.5, 0.8, 1.2, 1.6, 2, 0.35, 0.1],
  },
  coatWhere: option('Where the coat goes', 'coatWhere'),
  substrate: items('Substrate', 'substrates'),
  preparation: items('Preparation', 'preparations'),
  dryHours: {
    name: 'Cure time',
    named: 'by the method',
    levels: 'numbers',
    unit: 'h',
    least: 0.001,
    most: 240,
    step: 0.5,
    start: [4, 20, 8, 48, 12, 72, 2, 96],
  },
  pressing: items('Pressed with', 'tools'),
  water: option('Water', 'water'),
  removal: option('Way of taking the paper off', 'removal'),
  rubTool: items('Rubbed with', 'tools'),
  rounds: {
    name: 'Rubbing rounds',
    levels: 'numbers',
    unit: '',
    least: 1,
    most: 6,
    step: 1,
    start: [1, 2, 3, 4, 5, 6],
  },
  finish: items('Finish', 'finishes'),
  trim: option('Trimming', 'trim'),
  copyAgeH: {
    name: 'Age of the copy',
    levels: 'numbers',
    unit: 'h',
    least: 0.1,
    most: 20_000,
    step: 1,
    start: [1, 24, 168, 720, 8760, 4, 72, 2160],
  },
};

/**
 * The unit a maker would give a wait of this length in, and how many hours it is.
 *
 * @example timeUnit(0.5).unit; // => 'min'
 */
export function timeUnit(hours: number): {
  readonly unit: 's' | 'min' | 'h' | 'days';
  readonly hours: number;
} {
  if (hours < 0.03) return { unit: 's', hours: 1 / 3600 };
  if (hours < 1.5) return { unit: 'min', hours: 1 / 60 };
  return hours > 60 ? { unit: 'days', hours: 24 } : { unit: 'h', hours: 1 };
}

/**
 * What a factor is called where people read it: by its method, where that has a word of its own for the planned wait.
 *
 * @example factorName('dryHours', { waitName: 'Wait before pulling' }); // => 'Wait before pulling'
 */
export const factorName = (key: FactorKey, method: { readonly waitName: string }): string =>
  FACTORS[key].named === 'by the method' ? method.waitName : FACTORS[key].name;

type Named = {
  readonly methods?: readonly { id: string; name: string }[];
  readonly pictures?: readonly { id: string; name: string }[];
} & Partial<Record<ShelfKind, readonly { id: string; name: string }[]>> & {
    readonly options?: Partial<Record<OptionKey, readonly Choice[]>>;
  };

/**
 * A level in words, e.g. `Soft gel medium`, `6 h`, `45 s`, `0.4 mm`, `2 rounds`.
 *
 * @example write(levelName(shelf, 'coatMm', 0.4)); // => '0.4 mm'
 */
export const levelName = (used: Named | Shelf, key: FactorKey, value: string | number): Words => {
  const kind = FACTORS[key];
  return kind.levels === 'numbers'
    ? numberLevel(kind.unit, Number(value))
    : named(nameOf(used, key, value), 'level');
};

function numberLevel(unit: 'h' | 'mm' | '', value: number): Quantity {
  if (unit === 'h') return hours(value);
  return unit === 'mm' ? thick(value) : many(value, 'round');
}

function nameOf(used: Named | Shelf, key: FactorKey, value: string | number): string {
  const kind = FACTORS[key];
  switch (kind.levels) {
    case 'methods':
      return (used as Named).methods?.find(m => m.id === value)?.name ?? String(value);
    case 'pictures':
      return value === TARGET.id
        ? TARGET.name
        : ((used as Named).pictures?.find(p => p.id === value)?.name ?? String(value));
    case 'items':
      return used[kind.shelf]?.find(item => item.id === value)?.name ?? String(value);
    case 'options':
      return (used as Named).options?.[kind.option]?.find(o => o.id === value)?.name ?? String(value);
    case 'numbers':
      return String(value);
  }
}

/** Hours as people say them; whole hours stay hours up to two days. */
const hours = (h: number): Quantity => minutes(h * 60, h >= 1.5 && h <= 48 ? { places: 1 } : {});

/** How a finished piece may be worn on purpose (docs/HANDBOOK.md §10). */
export const WEAR_TESTS = ['dry-rub', 'wet-rub', 'tape', 'water', 'wash', 'bend', 'sun', 'heat'] as const;
export type WearTest = (typeof WEAR_TESTS)[number];
