import { bad, good, type Outcome } from '../outcome/index.ts';

/** A column of a table as numbers: NaN where nothing stands, or what is no number. */
export interface Column {
  readonly values: readonly number[];
  /** Where something stands that is no number: the row, from 0 on, and what stands there. */
  readonly strange: readonly { readonly row: number; readonly text: string }[];
}

/** Digits with groups of three behind commas, and nothing else that says what a comma is. */
const EITHER = /^[+-]?[1-9]\d{0,2},\d{3}$/;
/** A comma that can only part groups of three, or only be the decimal sign. */
const PARTS = /^[+-]?\d{1,3}(,\d{3})+\.\d+$|^[+-]?\d{1,3}(,\d{3}){2,}$/;
const DECIMAL = /^[+-]?(\d+|\d{1,3}(\.\d{3})+),\d+$|^[+-]?,\d+$/;
const PLAIN_POINT = /^[+-]?\d*\.\d+$/;

/** As it is written, without what means nothing: spaces inside, a percent sign, a typeset minus. */
const bare = (text: string | undefined) =>
  (text ?? '')
    .replace(/[\s\u00a0\u202f']/g, '')
    .replace(/^[\u2212\u2013]/, '-')
    .replace(/%$/, '');

/**
 * A column's texts as numbers. A comma is the decimal sign or parts thousands, whichever all of the column goes with
 * ("12,5" or "1,234.5"); where nothing in the column tells ("1,234" alone), it fails and asks. "85 %" is 85.
 *
 * @param name the column's heading, for words.
 *
 * @example columnOf('share', ['85 %', '7,5', '']).value.values; // => [85, 7.5, NaN]
 * @example columnOf('minutes', ['1,234', '2,100.5']).value.values; // => [1234, 2100.5]
 * @example columnOf('minutes', ['1,234']).ok; // => false
 */
export function columnOf(name: string, texts: readonly (string | undefined)[]): Outcome<Column> {
  const written = texts.map(bare);
  const isParted = written.some(t => PARTS.test(t) || (t.includes(',') === false && PLAIN_POINT.test(t)));
  const isDecimal = written.some(t => DECIMAL.test(t) && !EITHER.test(t));
  const asked = written.findIndex(t => EITHER.test(t));
  if (asked >= 0 && isParted === isDecimal)
    return bad(
      'number',
      `Row ${asked + 1} has “${texts[asked]?.trim()}” in “${name}”, which may be ${written[asked].replace(',', '')} or ${written[asked].replace(',', '.')}.`,
      'Write the numbers of this column without commas.',
    );
  const strange: Column['strange'][number][] = [];
  const values = written.map((t, row) => {
    if (t === '') return Number.NaN;
    const value = Number(
      isDecimal || !isParted ? t.replace(/\.(?=.*,)/g, '').replace(',', '.') : t.replaceAll(',', ''),
    );
    if (Number.isFinite(value)) return value;
    strange.push({ row, text: texts[row]?.trim() ?? '' });
    return Number.NaN;
  });
  return good({ values, strange });
}
