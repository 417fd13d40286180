import Papa from 'papaparse';
import { bad, good, type Outcome } from '../outcome/index.ts';
import { say } from '../say/index.ts';
import { columnOf } from '../units/index.ts';
import { SHELF_FIELDS, SHELF_NAMES, type ShelfField } from './fields.ts';
import { checkItem, itemId } from './items.ts';
import type { Shelf, ShelfKind } from './schema.ts';

/**
 * The items of one kind as CSV: a column for every field, `id` first.
 *
 * @example shelfCsv('tools', []).split(',')[0]; // => 'id'
 */
export function shelfCsv<K extends ShelfKind>(kind: K, items: readonly Shelf[K][number][]): string {
  const fields = SHELF_FIELDS[kind];
  const columns = ['id', ...fields.map(f => f.key)];
  return Papa.unparse(
    {
      fields: columns,
      data: items.map(item => {
        const record = item as unknown as Record<string, unknown>;
        return [record.id, ...fields.map(f => toCell(f, record[f.key]))];
      }),
    },
    { escapeFormulae: true, newline: '\n' },
  );
}

function toCell(field: ShelfField, value: unknown): string {
  if (value === null || value === undefined) return '';
  switch (field.type) {
    case 'yes-no':
      return value ? 'yes' : 'no';
    case 'many':
      return (value as string[]).join('; ');
    case 'colour':
      return (value as number[]).map(c => Number(c.toFixed(5))).join(' ');
    case 'size': {
      const { w, h } = value as { w: number; h: number };
      return `${w} x ${h}`;
    }
    default:
      return String(value);
  }
}

const MOST_ROWS = 5000;
const MOST_LETTERS = 5_000_000;

/**
 * Items of one kind read from CSV. Rows without an id get one from their name; columns that are left
 * out get their usual value; unknown columns are refused by name. Fails at the first wrong row with its
 * line number, so that nothing of a broken file is stored.
 */
export function readShelfCsv<K extends ShelfKind>(
  kind: K,
  csv: string,
  taken: readonly string[],
): Outcome<Shelf[K][number][]> {
  if (csv.length > MOST_LETTERS)
    return bad('too-big', 'This table is too big.', 'Split it into smaller files.');
  const parsed = Papa.parse<Record<string, string>>(csv.replace(/^\uFEFF/, ''), {
    header: true,
    skipEmptyLines: 'greedy',
    transformHeader: h => h.trim(),
  });
  const fields = SHELF_FIELDS[kind];
  const known = new Set(['id', ...fields.map(f => f.key)]);
  const columns = parsed.meta.fields ?? [];
  const strange = columns.find(c => !known.has(c));
  if (!columns.includes('name') || strange)
    return bad(
      'columns',
      strange
        ? `The column “${strange}” is not one of a ${SHELF_NAMES[kind].one}.`
        : 'This is not a table of shelf items: the column “name” is missing.',
      `The columns are: ${[...known].join(', ')}.`,
    );
  if (parsed.data.length > MOST_ROWS)
    return bad('too-big', `More than ${MOST_ROWS} rows.`, 'Split the file.');
  const broken = parsed.errors.find(e => e.type !== 'Delimiter');
  if (broken) return bad('csv', `Line ${(broken.row ?? 0) + 2}: ${broken.message}.`);
  const numbers = new Map<string, readonly number[]>();
  for (const { key } of fields.filter(isNumber)) {
    const column = columnOf(
      key,
      parsed.data.map(row => row[key]),
    );
    if (!column.ok) return column;
    numbers.set(key, column.value.values);
  }
  const used = new Set<string>();
  const items: Shelf[K][number][] = [];
  for (const [i, row] of parsed.data.entries()) {
    const item: Record<string, unknown> = {};
    for (const field of fields) {
      const cell = (row[field.key] ?? '').trim().replace(/^'(?=[=+\-@])/, '');
      if (cell !== '') item[field.key] = numbers.get(field.key)?.[i] ?? fromCell(field, cell);
    }
    const given = (row.id ?? '').trim();
    item.id = given || itemId(String(item.name ?? ''), [...taken, ...used]);
    const checked = checkItem(kind, item);
    if (!checked.ok) return bad('row', say`Line ${i + 2}: ${checked.problem.say}`, 'Nothing was taken over.');
    if (used.has(checked.value.id))
      return bad('row', `Line ${i + 2}: the id “${checked.value.id}” is there twice.`);
    used.add(checked.value.id);
    items.push(checked.value);
  }
  return items.length ? good(items) : bad('empty', 'There are no items in this table.');
}

const isNumber = ({ type }: ShelfField) => type === 'number' || type === 'length' || type === 'volume';

function fromCell(field: ShelfField, cell: string): unknown {
  switch (field.type) {
    case 'yes-no':
      return /^(yes|true|1|y)$/i.test(cell) ? true : /^(no|false|0|n)$/i.test(cell) ? false : cell;
    case 'many':
      return cell
        .split(';')
        .map(c => c.trim())
        .filter(Boolean);
    case 'colour':
      return cell.split(/\s+/).map(Number);
    case 'size': {
      const [w, h] = cell.split(/\s*[x×]\s*/i).map(Number);
      return { w, h };
    }
    default:
      return cell;
  }
}
