import { freshId } from '../core/codes/index.ts';
import type { Locks } from './locks.ts';
import type { Keyed } from './stores.ts';

/** Work on several keys, written down before it begins, so that it can be finished or taken back after a crash. */
export type Intent =
  /** Files and maps go first; then the log entry that names this work makes them count. */
  | { readonly work: 'append'; readonly trial: string; readonly keys: FileKeys }
  /** Everything of a trial goes first; its plan makes it count. */
  | { readonly work: 'import'; readonly trial: string; readonly keys: FileKeys }
  | { readonly work: 'erase'; readonly trial: string }
  | { readonly work: 'picture'; readonly picture: string }
  | { readonly work: 'wipe' };

export interface FileKeys {
  readonly photos: readonly string[];
  readonly maps: readonly string[];
}

interface Kept {
  readonly at: number;
  readonly intent: Intent;
}

/** Where the browser cannot tell whether another tab is still at it, work is taken for broken off after so long. */
const BROKEN_OFF_MS = 15 * 60_000;

/** The journal of a workshop. */
export function journalOf(store: Keyed, locks: Locks, workshop: string) {
  const lockOf = (id: string) => `wet-test ${workshop} work ${id}`;
  return {
    /** Does `work` with its intent written down; the name it is given tells this work from any other. */
    async during<T>(intent: Intent, work: (id: string) => Promise<T>): Promise<T> {
      const id = freshId(Math.random);
      return locks.inTurn(lockOf(id), async () => {
        await store.setItem<Kept>(id, { at: Date.now(), intent });
        const result = await work(id);
        await store.removeItem(id);
        return result;
      });
    },
    /** Gives every work that was broken off to `repair`, one after another; what another tab is still doing is left alone. */
    async repairAll(repair: (intent: Intent, id: string) => Promise<void>): Promise<void> {
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
    },
  };
}
export type Journal = ReturnType<typeof journalOf>;

const began = Date.now();
/** Whether something was written by this page: nothing of it can be under way while it opens. */
const sessionBegan = (at: number) => at >= began;
