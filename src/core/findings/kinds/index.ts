import { GRADED } from './aspects.ts';
import { GRADE } from './grade.ts';
import { KEEP } from './keep.ts';
import type { Kind } from './kind.ts';
import { MINUTES } from './minutes.ts';
import { PAIRS } from './pairs.ts';
import { READ } from './read.ts';

export type { Kind } from './kind.ts';

/** Everything that a trial can be judged by, in the order in which it is shown. */
export const KINDS: readonly Kind[] = [...READ, GRADE, ...GRADED, KEEP, PAIRS, MINUTES];

/**
 * One of them by its id.
 *
 * @example kindOf('grade').goal; // => 'more'
 */
export const kindOf = (id: string): Kind => KINDS.find(k => k.id === id)!;
