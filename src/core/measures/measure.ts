import * as v from 'valibot';
import type { Quantity, Words } from '../say/index.ts';

/** A value of a reading: nothing where it could not be trusted. */
export type Measured = number | null;

/** How a measure speaks in findings and charts, where it can be what a trial is judged by. */
export interface AsResponse {
  /** `No difference in … can be told apart`. */
  readonly noun: string;
  /** `Soft gel … than every other`. */
  readonly more: string;
  /** What it is headed with. */
  readonly heading: string;
  /** A difference or a give. */
  readonly difference: (value: number) => Quantity;
  /** The end of the chart's scale: fixed, or what the values need but at least this. */
  readonly scale: { readonly most: number } | { readonly atLeast: number; readonly atMost: number };
  /** The ends of its own scale. */
  readonly bounds: readonly [number, number];
  readonly digits: number;
  /** Decimals in the table of figures. */
  readonly figures: number;
}

/**
 * One number that is measured of a patch: its range, its words, which way is better, its columns in tables, and what
 * it says to the diagnosis. Everything that shows or stores measures goes by this table; a new one is a file of its
 * own and a line in `index.ts`.
 */
export interface Measure<Id extends string = string, Signal extends string = string> {
  /** Its field in a reading; `Give` behind it for its give. */
  readonly id: Id;
  readonly name: string;
  readonly goal: 'more' | 'less';
  /** The number with its unit, as people read it. */
  readonly words: (value: number) => Words;
  /** What stands in its place where it is not given, and where that is for want of the card; nothing: then its row is left out. */
  readonly withheld?: string;
  readonly withheldByHand?: string;
  /** What it is measured of; where it has a give, that stands there. */
  readonly of: string;
  readonly hasGive: boolean;
  readonly column: string;
  readonly giveColumn?: string;
  /** Its fields in a reading, with their ranges. */
  readonly fields: Readonly<Record<string, v.GenericSchema>>;
  readonly response?: AsResponse;
  /** The diagnosis' signals, from the value. */
  readonly signals: Readonly<Partial<Record<Signal, (value: number) => number>>>;
}

const within = (range: readonly [number, number]) =>
  v.pipe(v.number(), v.minValue(range[0]), v.maxValue(range[1]));

/** The fields of a reading for one measure, with its range checked. */
export const field = <Id extends string>(id: Id, range: readonly [number, number]) =>
  ({ [id]: v.nullable(within(range)) }) as Record<Id, ReturnType<typeof nullableNumber>>;

/** The same with a give of its own. */
export const fieldWithGive = <Id extends string>(id: Id, range: readonly [number, number]) =>
  ({
    [id]: v.nullable(within(range)),
    [`${id}Give`]: v.nullable(within([0, range[1]])),
  }) as Record<Id | `${Id}Give`, ReturnType<typeof nullableNumber>>;

const nullableNumber = () => v.nullable(within([0, 0]));
