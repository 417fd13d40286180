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
export function shelfOf(store: Keyed, locks: Locks, workshop: string) {
  const inTurn = <T>(work: () => Promise<T>) => locks.inTurn(`wet-test ${workshop} shelf`, work);

  /** Writes the starter shelf out before its first change; the order last, so that a crash before it begins again. */
  const fill = async (): Promise<string[]> => {
    const filled = await store.getItem<string[]>(FILLED);
    if (filled) return filled;
    const order: string[] = [];
    for (const kind of SHELF_KINDS)
      for (const item of STARTER_SHELF[kind]) {
        await store.setItem<KeptItem>(keyOf(kind, item.id), { kind, item });
        order.push(keyOf(kind, item.id));
      }
    await store.setItem(FILLED, order);
    return order;
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
    /** Keeps items; of one that was changed from `base`, only what was changed. */
    saveItems: (
      kind: ShelfKind,
      items: readonly ShelfItem[],
      base: readonly ShelfItem[] = [],
    ): Promise<void> =>
      inTurn(async () => {
        const order = await fill();
        for (const mine of items) {
          const kept = await store.getItem<KeptItem>(keyOf(kind, mine.id));
          const now = kept ? checkItem(kind, kept.item) : undefined;
          const item = mergeFields(
            base.find(b => b.id === mine.id),
            mine,
            now?.ok ? now.value : undefined,
          );
          await store.setItem<KeptItem>(keyOf(kind, mine.id), { kind, item });
        }
        const fresh = items.map(item => keyOf(kind, item.id)).filter(key => !order.includes(key));
        if (fresh.length) await store.setItem(FILLED, [...order, ...fresh]);
      }),
    /** Takes an item off the shelf. Trials keep their own copy of what they used. */
    removeItem: (kind: ShelfKind, id: string): Promise<void> =>
      inTurn(async () => {
        await fill();
        await store.removeItem(keyOf(kind, id));
      }),
  };
}
