/** What is measured in units that differ from country to country. */
export const DIMENSIONS = ['length', 'thickness', 'spot', 'area', 'volume', 'weight', 'temperature'] as const;
export type Dimension = (typeof DIMENSIONS)[number];

/** Everything that is said as a number, and what it means when one asks; nothing of what everybody knows. */
export const KINDS = {
  length: '',
  thickness: '',
  spot: '',
  area: '',
  volume: '',
  weight: '',
  temperature: '',
  humidity: 'Relative humidity: how much water the air holds of what it could hold at this temperature.',
  span: '',
  share: '',
  sure: 'Of a hundred such statements about so many are right, by what was measured so far.',
  tenths: 'How often of ten, as far as it is known.',
  veil: 'How much paper is left over what landed: 0 none, 1 white.',
  colour: 'How far a colour is off (ΔE00): 1 is hardly seen, 5 is plain.',
  work: 'Minutes that hands were busy with a patch.',
  points: 'Points of a hundred: from 60 % to 67 % are 7 points.',
  number: '',
  count: '',
  give: 'Give or take: in nine of ten such cases the true value lies within this range on either side.',
} as const;
export type Kind = keyof typeof KINDS;

/** A number in a text: what kind of number, how exact, and what it rests on. */
export interface Quantity {
  readonly kind: Kind;
  /** In the inner unit of its kind; minutes for a span, a hundredth for shares. */
  readonly value: number;
  /** The other end of a range. */
  readonly to?: number;
  /** The other side of a size. */
  readonly by?: number;
  /** Places after the point that are known; nothing: as it is. A span that has them is said in hours, to as many. */
  readonly places?: number;
  /** What is counted, one and many; the unit of a plain number. */
  readonly noun?: readonly [one: string, many: string];
  /** Its unit stands beside it already. */
  readonly bare?: boolean;
  /** What it is for numbers of this kind: of a `give`, the kind of what it is given to. */
  readonly of?: Exclude<Kind, 'give'>;
  /** What it rests on, where more can be said than what it means. */
  readonly rests?: Words;
}

/** What a name is the name of. */
export type NameOf = 'level' | 'factor' | 'material' | 'method' | 'patch' | 'picture' | 'trial' | 'step';

/** The name of something of the maker's, within a text: never translated, and not broken apart. */
export interface Name {
  readonly name: string;
  readonly of: NameOf;
}

/**
 * What the program has to say: a plain text, a number that knows what it is, a name, or all of them in a row. Made
 * where the thought is, by {@link say}; {@link write} puts it into a reader's measures. It is plain data: it can be
 * stored and sent to a worker.
 */
export type Words = string | Quantity | Name | readonly Words[];
