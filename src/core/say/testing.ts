import { KINDS, type Words, write } from './index.ts';

/**
 * What was said, for tests: in metric; of what is not there, nothing.
 *
 * @example said(undefined); // => ''
 */
export const said = (words: Words | false | null | undefined): string => (words ? write(words) : '');

const isPart = (value: unknown): boolean =>
  typeof value === 'object' &&
  value !== null &&
  (('kind' in value && 'value' in value && String(value.kind) in KINDS) ||
    ('name' in value && 'of' in value && Object.keys(value).length === 2 && typeof value.of === 'string'));

/**
 * Whether something is a text with numbers or names in it, and no plain one.
 *
 * @example isSaid(['a', { kind: 'length', value: 2 }]); // => true
 * @example isSaid(['a', 'b']); // => false
 */
export const isSaid = (value: unknown): value is Words =>
  isPart(value) ||
  (Array.isArray(value) &&
    value.some(isPart) &&
    value.every(part => typeof part === 'string' || isPart(part)));

/**
 * The same thing with all that is said in it as it reads.
 *
 * @example asRead({ a: ['so ', { kind: 'length', value: 2 }] }); // => { a: 'so 2 mm' }
 */
export const asRead = (value: unknown): unknown =>
  JSON.parse(JSON.stringify(value ?? null, (_, part) => (isSaid(part) ? write(part) : part)));
