import { checkRecipeEvent, type RecipeEvent } from '../core/recipe-book/index.ts';
import type { Locks } from './locks.ts';
import type { Keyed } from './stores.ts';
import type { Together } from './together.ts';

/** Recipes as append-only events, a key for each; those that cannot be read stay stored. */
export function recipesOf(store: Keyed, locks: Locks, together: Together, workshop: string) {
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
    /** Adds events that are not here yet, all of them or none; says how many those were. */
    add: (events: readonly RecipeEvent[]): Promise<number> =>
      locks.inTurn(`wet-test ${workshop} recipes`, async () => {
        const known = new Set(await store.keys());
        const fresh = new Map(events.filter(e => !known.has(keyOf(e))).map(e => [keyOf(e), e]));
        await together.write('recipes', [...fresh]);
        return fresh.size;
      }),
  };
}
