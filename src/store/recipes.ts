import { checkRecipeEvent, type RecipeEvent } from '../core/recipe-book/index.ts';
import type { Keyed } from './stores.ts';

/** Recipes as append-only events, a key for each; those that cannot be read stay stored. */
export function recipesOf(store: Keyed) {
  const keyOf = ({ recipe, id }: RecipeEvent) => `${recipe}/${id}`;
  return {
    events: async (): Promise<RecipeEvent[]> => {
      const found: RecipeEvent[] = [];
      await store.iterate<unknown>(value => {
        const event = checkRecipeEvent(value);
        if (event.ok) found.push(event.value);
      });
      return found;
    },
    /** Adds events that are not here yet; says how many those were. */
    add: async (events: readonly RecipeEvent[]): Promise<number> => {
      const known = new Set(await store.keys());
      const fresh = events.filter(e => !known.has(keyOf(e)));
      for (const event of fresh) await store.setItem(keyOf(event), event);
      return fresh.length;
    },
  };
}
