import { joined, KINDS, type Quantity, type Reader, type Words, write } from '../../core/say/index.ts';

/**
 * What a number of a text means and what it rests on, once it is pressed: its kind's meaning, and what was said of this
 * one; nothing of a number that everybody knows, which is not pressed.
 *
 * @example meaningOf({ kind: 'length', value: 3 }); // => ''
 */
export const meaningOf = ({ kind, rests }: Quantity): Words =>
  joined([KINDS[kind], rests ?? ''].filter(Boolean), ' ');

/** What a pressed number is headed with: `give or take 3 points`. */
export const headOf = (quantity: Quantity, reader: Reader): string =>
  `${quantity.kind === 'give' ? 'give or take ' : ''}${write(quantity, reader)}`;
