import {
  checkItem,
  SHELF_KINDS,
  type Shelf,
  type ShelfItem,
  type ShelfKind,
  STARTER_SHELF,
} from '../core/shelf/index.ts';
import type { Locks } from './locks.ts';
import { mergeFields } from './merge.ts';
import type { Keyed } from './stores.ts';
import type { Together } from './together.ts';

/** The shelf, and the stored items that cannot be read (they stay stored). */
export interface StoredShelf {
  readonly shelf: Shelf;
  readonly damaged: number;
}

interface KeptItem {
  readonly kind?: ShelfKind;
  readonly item?: unknown;
}

/** The order of the items, by key; there once anything was changed. */
const FILLED = 'filled';
const keyOf = (kind: ShelfKind, id: string) => `${kind}/${id}`;
type Lists = Record<ShelfKind, ShelfItem[]>;

/** The shelf of a workshop: the starter shelf until something on it is changed, from then on what is stored. */
export function shelfOf(store: Keyed, locks: Locks, together: Together, workshop: string) {
  const inTurn = <T>(work: () => Promise<T>) => locks.inTurn(`wet-test ${workshop} shelf`, work);

  /** The order of the items, and what has to be written before the first change of all: the starter shelf. */
  const begun = async (): Promise<{ order: readonly string[]; starter: Map<string, KeptItem> }> => {
    const filled = await store.getItem<string[]>(FILLED);
    if (filled) return { order: filled, starter: new Map() };
    const starter = new Map<string, KeptItem>(
      SHELF_KINDS.flatMap(kind =>
        STARTER_SHELF[kind].map(item => [keyOf(kind, item.id), { kind, item }] as const),
      ),
    );
    return { order: [...starter.keys()], starter };
  };

  return {
    shelf: async (): Promise<StoredShelf> => {
      const order = await store.getItem<string[]>(FILLED);
      if (!order) return { shelf: STARTER_SHELF, damaged: 0 };
      const lists = Object.fromEntries(SHELF_KINDS.map(kind => [kind, []])) as unknown as Lists;
      let damaged = 0;
      await store.iterate<KeptItem>((value, key) => {
        if (key === FILLED) return;
        const kind = SHELF_KINDS.find(k => k === value?.kind);
        const item = kind && checkItem(kind, value.item);
        if (kind && item?.ok) lists[kind].push(item.value);
        else damaged++;
      });
      const place = new Map(order.map((key, i) => [key, i]));
      const placeOf = (kind: ShelfKind, item: ShelfItem) =>
        place.get(keyOf(kind, item.id)) ?? Number.MAX_SAFE_INTEGER;
      for (const kind of SHELF_KINDS) lists[kind].sort((a, b) => placeOf(kind, a) - placeOf(kind, b));
      return { shelf: lists as unknown as Shelf, damaged };
    },
    /** Keeps items, all of them or none; of one that was changed from `base`, only what was changed. */
    saveItems: (
      kind: ShelfKind,
      items: readonly ShelfItem[],
      base: readonly ShelfItem[] = [],
    ): Promise<void> =>
      inTurn(async () => {
        const { order, starter } = await begun();
        const writes = new Map<string, unknown>(starter);
        for (const mine of items) {
          const key = keyOf(kind, mine.id);
          const kept = starter.get(key) ?? (await store.getItem<KeptItem>(key));
          const now = kept ? checkItem(kind, kept.item) : undefined;
          const item = mergeFields(
            base.find(b => b.id === mine.id),
            mine,
            now?.ok ? now.value : undefined,
          );
          writes.set(key, { kind, item });
        }
        const fresh = [...new Set(items.map(item => keyOf(kind, item.id)))].filter(k => !order.includes(k));
        if (fresh.length || starter.size) writes.set(FILLED, [...order, ...fresh]);
        await together.write('shelf', [...writes]);
      }),
    /** Takes an item off the shelf. Trials keep their own copy of what they used. */
    removeItem: (kind: ShelfKind, id: string): Promise<void> =>
      inTurn(async () => {
        const { order, starter } = await begun();
        const writes = new Map<string, unknown>(starter);
        writes.set(keyOf(kind, id), null);
        if (starter.size) writes.set(FILLED, order);
        await together.write('shelf', [...writes]);
      }),
  };
}
