import type { Picture } from '../core/artwork/index.ts';
import { type Keyed, STORES, type StoreName, type Stores } from './stores.ts';

/** What a memory storage saw. */
export interface Seen {
  reads: string[];
  writes: number;
}

/** The page went away: nothing after this is written. */
export class Killed extends Error {}

type Data = Readonly<Record<StoreName, Map<string, unknown>>>;
export const emptyData = (): Data =>
  Object.fromEntries(STORES.map(name => [name, new Map()])) as unknown as Data;

/**
 * A storage in memory for tests, over data that stays: it counts what is read, and after `most` writes every further
 * call fails, as if the page had been closed in between, or as `fails` says.
 */
export function memoryStores(
  data: Data,
  most = Number.POSITIVE_INFINITY,
  fails: () => Error = () => new Killed(),
  /** Which further writes fail, by their number from 1 on, and whether they store or take away; all else goes on. */
  refuses: (write: number, isStoring: boolean) => boolean = () => false,
): { readonly stores: Stores; readonly seen: Seen } {
  const seen: Seen = { reads: [], writes: 0 };
  const alive = () => {
    if (seen.writes > most) throw fails();
  };
  const writing = (isStoring: boolean) => {
    seen.writes++;
    alive();
    if (refuses(seen.writes, isStoring)) throw fails();
  };
  const storeOf = (name: StoreName): Keyed => {
    const kept = data[name];
    return {
      async getItem<T>(key: string) {
        alive();
        seen.reads.push(`${name}:${key}`);
        return (kept.has(key) ? structuredCloneOf(kept.get(key)) : null) as T | null;
      },
      async setItem(key, value) {
        writing(true);
        kept.set(key, structuredCloneOf(value));
        return value;
      },
      async removeItem(key) {
        if (!kept.has(key)) return alive();
        writing(false);
        kept.delete(key);
      },
      async keys() {
        alive();
        seen.reads.push(`${name}:*`);
        return [...kept.keys()];
      },
      async iterate<T>(see: (value: T, key: string) => void) {
        alive();
        seen.reads.push(`${name}:*`);
        for (const [key, value] of [...kept]) see(structuredCloneOf(value) as T, key);
      },
      async clear() {
        writing(false);
        kept.clear();
      },
    };
  };
  return {
    stores: Object.fromEntries(STORES.map(name => [name, storeOf(name)])) as unknown as Stores,
    seen,
  };
}

/** As a storage copies it; files are kept as they are. */
const structuredCloneOf = (value: unknown) => (value instanceof Blob ? value : structuredClone(value));

/** All data as plain keys, for comparing. */
export const keysIn = (data: Data): string[] =>
  STORES.flatMap(name => [...data[name].keys()].map(key => `${name}:${key}`)).sort();

/** A picture for tests. */
export const EXAMPLE_PICTURE: Picture = {
  id: 'PIC1',
  name: 'Curlew',
  addedAt: '2026-05-02T08:00:00.000Z',
  edits: [],
  piece: { w: 100, h: 80 },
  fit: 'fit',
  marginMm: 5,
  centreMarks: true,
  hasText: null,
  method: 'wet-rub',
  printer: 'office-laser',
  donor: 'copy-80',
  grounds: ['slate'],
};
