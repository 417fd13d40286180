import { freshId } from '../core/codes/index.ts';
import type { Locks } from './locks.ts';
import type { Keyed, StoreName } from './stores.ts';

/** Work on several keys, written down before it begins, so that it can be finished or taken back after a crash. */
export type Intent =
  /** Files and maps go first; then the log entry that names this work makes them count. */
  | { readonly work: 'append'; readonly trial: string; readonly keys: FileKeys }
  /**
   * Everything of a trial goes first, and what is recorded of it in the trials it was made of (`also`); its plan makes
   * it count.
   */
  | {
      readonly work: 'import';
      readonly trial: string;
      readonly keys: FileKeys;
      readonly also?: readonly string[];
    }
  /** The plan goes first: without it the trial is gone, and what is left of it is swept up. */
  | { readonly work: 'erase'; readonly trial: string }
  /** The files go first; then the picture makes them count. */
  | { readonly work: 'picture'; readonly picture: string; readonly files: readonly string[] }
  /** Several keys of one store. They count when this is closed; until then they are put back as they were. */
  | {
      readonly work: 'keys';
      readonly store: StoreName;
      readonly changes: readonly KeyChange[];
    }
  | { readonly work: 'wipe' };

/** What a key holds before and after; null where it is not there. */
export interface KeyChange {
  readonly key: string;
  readonly before: unknown;
  readonly after: unknown;
}

export interface FileKeys {
  readonly photos: readonly string[];
  readonly maps: readonly string[];
}

interface Kept {
  readonly at: number;
  readonly intent: Intent;
}

/** Takes back what is not whole, or sweeps up after what is; may be done twice. */
type Settle = (intent: Intent, id: string) => Promise<void>;

/** Where the browser cannot tell whether another tab is still at it, work is taken for broken off after so long. */
const BROKEN_OFF_MS = 15 * 60_000;

/** The journal of a workshop. */
export function journalOf(store: Keyed, locks: Locks, workshop: string) {
  const lockOf = (id: string) => `wet-test ${workshop} work ${id}`;
  let isOwing = false;

  /** Closes an intent after its work; where the storage refuses even that, the next work or opening does. */
  const settled = async (id: string, intent: Intent, settle: Settle) => {
    try {
      await settle(intent, id);
      await store.removeItem(id);
    } catch {
      isOwing = true;
    }
  };

  return {
    /**
     * Does `work` with its intent written down; the name it is given tells this work from any other. Work that throws is
     * taken back by `settle` there and then, and its intent closed: nothing of it happens later. Rejects with what the
     * work threw.
     */
    async during<T>(intent: Intent, work: (id: string) => Promise<T>, settle: Settle): Promise<T> {
      const id = freshId(Math.random);
      return locks.inTurn(lockOf(id), async () => {
        await store.setItem<Kept>(id, { at: Date.now(), intent });
        try {
          const result = await work(id);
          // Where closing is what makes it count, a failure of that is a failure of the work.
          if (intent.work === 'keys') await store.removeItem(id);
          else await settled(id, intent, intent.work === 'erase' ? settle : nothing);
          return result;
        } catch (error) {
          await settled(id, intent, settle);
          throw error;
        }
      });
    },
    /** Whether the intent of a work that failed here could not be closed. */
    isOwing: () => isOwing,
    /** Gives every work that was broken off to `repair`, one after another; what another tab is still doing is left alone. */
    async repairAll(repair: Settle): Promise<void> {
      const found: [string, Kept][] = [];
      await store.iterate<Kept>((kept, id) => {
        if (kept?.intent) found.push([id, kept]);
      });
      for (const [id, { at, intent }] of found) {
        if (!locks.acrossTabs && Date.now() - at < BROKEN_OFF_MS && Date.now() >= at && !sessionBegan(at))
          continue;
        await locks.ifFree(lockOf(id), async () => {
          await repair(intent, id);
          await store.removeItem(id);
        });
      }
      isOwing = false;
    },
  };
}
export type Journal = ReturnType<typeof journalOf>;

const nothing = async () => {};
const began = Date.now();
/** Whether something was written by this page: nothing of it can be under way while it opens. */
const sessionBegan = (at: number) => at >= began;
