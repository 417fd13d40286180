import * as v from 'valibot';
import { bad, good, type Outcome } from '../outcome/index.ts';
import { SHELF_FIELDS } from './fields.ts';
import { ITEM, type Shelf, type ShelfItem, type ShelfKind } from './schema.ts';

export const SHELF_KINDS = Object.keys(ITEM) as ShelfKind[];

/**
 * One item checked against its kind; the sentence names the field that is wrong in the user's words.
 *
 * @example checkItem('mediums', shelf.mediums[1]).ok; // => true
 */
export function checkItem<K extends ShelfKind>(kind: K, data: unknown): Outcome<Shelf[K][number]> {
  const parsed = v.safeParse(ITEM[kind], data);
  if (parsed.success) return good(parsed.output as Shelf[K][number]);
  const issue = parsed.issues[0];
  const key = String(issue.path?.[0]?.key ?? '');
  const field = SHELF_FIELDS[kind].find(f => f.key === key);
  const isMissing = issue.received === 'undefined';
  const say = isMissing ? 'is missing.' : issue.message;
  return bad('bad-item', `${field?.label ?? key}: ${say}`);
}

/** What a number on the shelf may be: its range, whether it is a whole one, and whether it may be left out. */
export interface NumberRange {
  readonly least: number;
  readonly most: number;
  readonly whole?: true;
  readonly optional?: true;
}

interface Described {
  readonly wrapped?: Described;
  readonly entries?: Readonly<Record<string, Described>>;
  readonly pipe?: readonly (Described & { readonly type: string; readonly requirement?: unknown })[];
}

/** All that a value has to pass, one pipe within another. */
const partsOf = ({ pipe = [] }: Described): NonNullable<Described['pipe']> =>
  pipe.flatMap(part => [part, ...partsOf(part)]);

/**
 * The range of a number on the shelf, as {@link checkItem} holds it to; nothing for what is no number. Of a size either side's.
 *
 * @example rangeOf('mediums', 'openMin')?.least; // => 0.1
 * @example rangeOf('mediums', 'name'); // => undefined
 */
export function rangeOf(kind: ShelfKind, key: string): NumberRange | undefined {
  const entry = (ITEM[kind] as unknown as Described).entries?.[key];
  const isOptional = entry?.wrapped !== undefined;
  let inner = entry;
  while (inner?.wrapped) inner = inner.wrapped;
  const parts = partsOf(inner?.entries?.w ?? inner ?? {});
  const at = (type: string) => parts.find(p => p.type === type)?.requirement;
  const [least, most] = [at('min_value'), at('max_value')];
  if (typeof least !== 'number' || typeof most !== 'number') return undefined;
  return {
    ...{ least, most },
    ...(parts.some(p => p.type === 'integer') ? { whole: true as const } : {}),
    ...(isOptional ? { optional: true as const } : {}),
  };
}

/**
 * An id for a new item, made from its name and unlike all `taken` ones.
 *
 * @example itemId('Soft gel medium', []); // => 'soft-gel-medium'
 */
export function itemId(name: string, taken: readonly string[]): string {
  const slug =
    name
      .normalize('NFKD')
      .replace(/\p{M}/gu, '')
      .toLowerCase()
      .replace(/[^a-z0-9]+/g, '-')
      .replace(/^-+|-+$/g, '')
      .slice(0, 34)
      .replace(/-+$/, '') || 'item';
  if (!taken.includes(slug)) return slug;
  let n = 2;
  while (taken.includes(`${slug}-${n}`)) n++;
  return `${slug}-${n}`;
}

/**
 * A copy of an item under a new id and a name that says so.
 *
 * @example copyOf(shelf.tools[0], []).name === shelf.tools[0].name; // => false
 */
export function copyOf<T extends ShelfItem>(item: T, taken: readonly string[]): T {
  const name = `${item.name} (copy)`.slice(0, 80);
  return { ...item, id: itemId(name, taken), name };
}

/**
 * Items whose name, note, kind or batch hold every word of `query`, in any order and case.
 *
 * @example search(shelf.mediums, 'soft gel').length > 0; // => true
 */
export function search<T extends ShelfItem>(items: readonly T[], query: string): T[] {
  const words = query.toLowerCase().split(/\s+/).filter(Boolean);
  if (!words.length) return [...items];
  return items.filter(item => {
    const text = Object.values(item)
      .filter(value => typeof value === 'string')
      .join(' ')
      .toLowerCase();
    return words.every(word => text.includes(word));
  });
}
