import { give as orTake, say, type Words } from '../say/index.ts';
import { DETAIL } from './detail.ts';
import { LANDED } from './landed.ts';
import type { AsResponse, Measure } from './measure.ts';
import { SMEAR } from './smear.ts';
import { STAIN } from './stain.ts';
import { TONE } from './tone.ts';
import { VEIL } from './veil.ts';

export type { AsResponse, Measure, Measured } from './measure.ts';

/** Everything that is measured of a patch, in the order in which it is shown. */
export const MEASURES = [LANDED, VEIL, SMEAR, STAIN, DETAIL, TONE] as const;

/** The fields of a reading that hold them. */
export const MEASURE_FIELDS = Object.assign({}, ...MEASURES.map(m => m.fields)) as Whole<
  (typeof MEASURES)[number]['fields']
>;
/** All of a union at once. */
type Whole<U> = (U extends unknown ? (part: U) => void : never) extends (whole: infer W) => void ? W : never;

export type MeasureId = (typeof MEASURES)[number]['id'];
export type MeasureSignal = { [M in (typeof MEASURES)[number] as M['id']]: keyof M['signals'] }[MeasureId];
type Values = Readonly<Partial<Record<MeasureId, number | null>>>;

/**
 * A measure by its id.
 *
 * @example measureOf('veil').goal; // => 'less'
 */
export const measureOf = (id: MeasureId): Measure => MEASURES.find(m => m.id === id)!;

/** A measure that a trial can be judged by. */
export interface Response extends Measure {
  readonly id: MeasureId;
  readonly response: AsResponse;
}
export const RESPONSES: readonly Response[] = (MEASURES as readonly (Measure & { id: MeasureId })[]).flatMap(
  m => (m.response ? [{ ...m, response: m.response }] : []),
);

/**
 * What a reading says to the diagnosis; a measure that is not given says nothing.
 *
 * @example measureSignals({ landed: null, stain: 4 }); // => { stain: 0.04 }
 */
export function measureSignals(reading: Values): Partial<Record<MeasureSignal, number>> {
  const out: Partial<Record<MeasureSignal, number>> = {};
  for (const { id, signals } of MEASURES) {
    const value = reading[id];
    if (value == null) continue;
    for (const [signal, of] of Object.entries(signals)) out[signal as MeasureSignal] = of(value);
  }
  return out;
}

/**
 * A reading's measures as the cells of a table, by column.
 *
 * @example measureCells({ landed: 80 }).landed_pct; // => 80
 */
export function measureCells(reading: Values & Readonly<Record<string, unknown>>): Record<string, unknown> {
  const cells: Record<string, unknown> = {};
  for (const { id, column, ...m } of MEASURES as readonly Measure[]) {
    cells[column] = reading[id] ?? null;
    if (m.giveColumn) cells[m.giveColumn] = reading[`${id}Give`] ?? null;
  }
  return cells;
}

/** A number without its unit. */
const alone = (words: Words): Words =>
  typeof words === 'object' && 'kind' in words ? { ...words, bare: true } : words;

/** The columns of {@link measureCells}, in order. */
export const MEASURE_COLUMNS: readonly string[] = (MEASURES as readonly Measure[]).flatMap(m =>
  m.giveColumn ? [m.column, m.giveColumn] : [m.column],
);

/**
 * A reading's measures as rows of name, value and what it is of; those without a word for “not given” are left out.
 *
 * @example measureRows({ landed: 80, landedGive: 1 })[0]; // => { id: 'landed', name: 'Landed', value: percent(80, { places: 1 }), of: ['± ', { kind: 'give', value: 1, places: 1, of: 'share', bare: true }] }
 */
export function measureRows(
  reading: Values & Readonly<Record<string, unknown>>,
): { readonly id: string; readonly name: string; readonly value: Words; readonly of: Words }[] {
  return (MEASURES as readonly Measure[]).flatMap(({ id, name, words, of, hasGive, ...m }) => {
    const value = reading[id as MeasureId];
    const withheld = reading.byHand ? (m.withheldByHand ?? m.withheld) : m.withheld;
    if (value == null) return withheld ? [{ id, name, value: withheld, of: '' }] : [];
    const give = hasGive ? reading[`${id}Give`] : undefined;
    return [
      {
        id,
        name,
        value: words(value),
        of: typeof give === 'number' ? say`± ${orTake(alone(words(give)))}` : of,
      },
    ];
  });
}
