import { checkMethod, copyMethod, type Method } from '../core/methods/index.ts';
import type { Locks } from './locks.ts';
import { mergeFields } from './merge.ts';
import type { Keyed } from './stores.ts';

/** The maker's own methods. */
export function methodsOf(store: Keyed, locks: Locks, workshop: string) {
  const inTurn = <T>(work: () => Promise<T>) => locks.inTurn(`wet-test ${workshop} methods`, work);
  return {
    methods: async (): Promise<Method[]> => {
      const found: Method[] = [];
      await store.iterate<unknown>(value => {
        const method = checkMethod(value);
        if (method.ok) found.push(method.value);
      });
      return found.sort((a, b) => a.id.localeCompare(b.id));
    },
    /** Keeps a new method; where another tab took its id meanwhile, under the next that is free. */
    addMethod: (method: Method): Promise<Method> =>
      inTurn(async () => {
        const taken = await store.keys();
        const free = taken.includes(method.id) ? { ...method, id: copyMethod(method, taken).id } : method;
        await store.setItem(free.id, free);
        return free;
      }),
    /** Keeps a method; of one that was changed from `base`, only what was changed. */
    saveMethod: (method: Method, base?: Method): Promise<void> =>
      inTurn(async () => {
        const now = checkMethod(await store.getItem(method.id));
        const merged = checkMethod(mergeFields(base, method, now.ok ? now.value : undefined));
        // Two changes that do not fit together leave the later one whole.
        await store.setItem(method.id, merged.ok ? merged.value : method);
      }),
    removeMethod: (id: string): Promise<void> => inTurn(() => store.removeItem(id)),
  };
}
