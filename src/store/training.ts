import * as v from 'valibot';
import { FRESH_EYE, Learning } from '../core/training/index.ts';
import type { Workshop } from './workshop.ts';

const KEY = 'training';

/** What the eye has learnt in this workshop; nothing yet where none of it can be read. */
export async function learningIn(workshop: Workshop): Promise<Learning> {
  const { stores } = await workshop.opened();
  const found = v.safeParse(Learning, await stores.meta.getItem(KEY));
  return found.success ? found.output : FRESH_EYE;
}

/** Keeps what was learnt. */
export const keepLearning = async (workshop: Workshop, learning: Learning): Promise<void> => {
  const { stores } = await workshop.opened();
  await stores.meta.setItem(KEY, learning);
};
