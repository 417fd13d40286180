import type { Intent, Journal, KeyChange } from './journal.ts';
import type { StoreName, Stores } from './stores.ts';

/** A key and what it is to hold; null takes it away. */
export type Write = readonly [key: string, value: unknown];

/**
 * Writes several keys of one store, all of them or none: what they held is noted first, and put back where a write fails
 * or the page goes away. Values are plain data. Whoever writes has to hold the store's turn.
 */
export function togetherIn(stores: Stores, journal: Journal) {
  const put = (store: StoreName, key: string, value: unknown) =>
    value === null ? stores[store].removeItem(key) : stores[store].setItem(key, value);
  const same = (a: unknown, b: unknown) => JSON.stringify(a) === JSON.stringify(b);

  /** Puts back what was there before; a key that somebody changed since stays as it is. */
  const takeBack = async (store: StoreName, changes: readonly KeyChange[]) => {
    for (const { key, before, after } of [...changes].reverse())
      if (!same(before, after) && same(await stores[store].getItem(key), after))
        await put(store, key, before);
  };

  return {
    write: async (store: StoreName, writes: readonly Write[]): Promise<void> => {
      const changes: KeyChange[] = [];
      for (const [key, after] of writes)
        changes.push({ key, before: await stores[store].getItem(key), after });
      const apply = async () => {
        for (const [key, value] of writes) await put(store, key, value);
      };
      if (writes.length < 2) return apply();
      await journal.during({ work: 'keys', store, changes }, apply, () => takeBack(store, changes));
    },
    repair: async (intent: Intent): Promise<void> => {
      if (intent.work === 'keys') await takeBack(intent.store, intent.changes);
    },
  };
}
export type Together = ReturnType<typeof togetherIn>;
