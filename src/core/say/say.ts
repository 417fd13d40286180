import { METRIC_READER, type Reader, written } from './quantity.ts';
import type { Name, NameOf, Quantity, Words } from './words.ts';

type Part = string | Quantity | Name;

const isRow = (words: Words): words is readonly Words[] => Array.isArray(words);

/**
 * The parts of a text in a row, texts that lie side by side as one.
 *
 * @example partsOf(['a', ['b', mm(2)]]).length; // => 2
 */
export function partsOf(words: Words): readonly Part[] {
  const parts: Part[] = [];
  const add = (w: Words): void => {
    if (isRow(w)) w.forEach(add);
    else if (w === '') return;
    else {
      const last = parts.at(-1);
      if (typeof w === 'string' && typeof last === 'string') parts[parts.length - 1] = last + w;
      else parts.push(w);
    }
  };
  add(words);
  return parts;
}

/**
 * A sentence with its numbers and names in it, as values. A bare number is written as it is.
 *
 * @example write(say`A board of ${mm(60, { by: 40 })}.`, { system: 'imperial' }); // => 'A board of 2.36 × 1.57 in.'
 * @example say`${'plain'} text`; // => 'plain text'
 */
export function say(texts: TemplateStringsArray, ...values: readonly (Words | number)[]): Words {
  const parts = partsOf(
    texts.flatMap((text, i): Words[] => {
      if (i >= values.length) return [text];
      const value = values[i];
      return [text, typeof value === 'number' ? String(value) : value];
    }),
  );
  return rowOf(parts);
}

/** Parts as they are handed on: one by itself, none as an empty text. */
const rowOf = (parts: readonly Part[]): Words => (parts.length > 1 ? parts : (parts[0] ?? ''));

/**
 * A text as its reader reads it; in metric where nobody is named.
 *
 * @example write(mm(25.4), { system: 'imperial' }); // => '1.00 in'
 */
export const write = (words: Words, reader: Reader = METRIC_READER): string =>
  partsOf(words)
    .map(part => (typeof part === 'string' ? part : 'name' in part ? part.name : written(part, reader)))
    .join('');

/**
 * A name in a text.
 *
 * @example write(say`${named('A1-7', 'patch')} tore.`); // => 'A1-7 tore.'
 */
export const named = (name: string, of: NameOf): Name => ({ name, of });

/**
 * The same within a sentence, where a name that is a word begins small: what is written in capitals stays so.
 *
 * @example within('Soft gel medium'); // => 'soft gel medium'
 * @example within('PVA glue'); // => 'PVA glue'
 */
export function within(words: string): string;
export function within(words: Words): Words;
export function within(words: Words): Words {
  if (typeof words === 'string')
    return /^\p{Lu}(?!\p{Lu}|$)/u.test(words) ? words[0].toLowerCase() + words.slice(1) : words;
  if (isRow(words)) return [within(words[0]), ...words.slice(1)];
  return 'name' in words ? { ...words, name: within(words.name) } : words;
}

/**
 * Texts in a row with something between them.
 *
 * @example write(joined([mm(2), mm(3)], ', ')); // => '2 mm, 3 mm'
 */
export const joined = (texts: readonly Words[], between: Words): Words =>
  rowOf(partsOf(texts.flatMap((text, i) => (i ? [between, text] : [text]))));

/**
 * Texts as they are counted up in a sentence.
 *
 * @example write(listed(['a', 'b', 'c'], 'or')); // => 'a, b or c'
 */
export const listed = (texts: readonly Words[], last: 'and' | 'or' = 'and'): Words =>
  joined(texts.length > 1 ? [joined(texts.slice(0, -1), ', '), texts.at(-1)!] : texts, ` ${last} `);

/**
 * The same as the beginning of a sentence: its first letter is a capital.
 *
 * @example upper('then 6 h'); // => 'Then 6 h'
 */
export function upper(words: string): string;
export function upper(words: Words): Words;
export function upper(words: Words): Words {
  if (typeof words === 'string') return words.charAt(0).toUpperCase() + words.slice(1);
  if (isRow(words)) return [upper(words[0]), ...words.slice(1)];
  return 'name' in words ? { ...words, name: upper(words.name) } : words;
}
