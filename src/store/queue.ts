import * as v from 'valibot';
import { PHOTO_STAGES } from '../core/trial/index.ts';
import type { Keyed } from './stores.ts';

/** A photo that was chosen and is not read yet: kept, so that it is still there after a reload. */
const Waiting = v.object({
  id: v.string(),
  trial: v.string(),
  name: v.string(),
  file: v.instance(Blob),
  takenAt: v.nullable(v.string()),
  simulated: v.boolean(),
  stage: v.picklist(PHOTO_STAGES),
  worn: v.optional(v.string()),
  addedAt: v.string(),
});
export type Waiting = v.InferOutput<typeof Waiting>;

/** The photos of a workshop that wait to be read. */
export function queueOf(store: Keyed) {
  const keyOf = (trial: string, id: string) => `${trial}/${id}`;
  return {
    /** Those of a trial, in the order in which they were chosen; what cannot be read any more is passed over. */
    waiting: async (trial: string): Promise<Waiting[]> => {
      const found: Waiting[] = [];
      await store.iterate<unknown>((value, key) => {
        if (!key.startsWith(`${trial}/`)) return;
        const waiting = v.safeParse(Waiting, value);
        if (waiting.success) found.push(waiting.output);
      });
      return found.sort((a, b) => a.addedAt.localeCompare(b.addedAt));
    },
    put: async (waiting: Waiting): Promise<void> => {
      await store.setItem(keyOf(waiting.trial, waiting.id), waiting);
    },
    /** Takes a photo out, because it was read or is not wanted. */
    drop: (trial: string, id: string): Promise<void> => store.removeItem(keyOf(trial, id)),
    /** Takes out all of a trial, when that is erased. */
    forget: async (trial: string): Promise<void> => {
      for (const key of await store.keys()) if (key.startsWith(`${trial}/`)) await store.removeItem(key);
    },
  };
}
