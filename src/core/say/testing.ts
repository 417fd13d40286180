import { type Words, write } from './index.ts';

/**
 * What was said, for tests: in metric; of what is not there, nothing.
 *
 * @example said(undefined); // => ''
 */
export const said = (words: Words | false | null | undefined): string => (words ? write(words) : '');
