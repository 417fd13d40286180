import type { Outcome, Problem } from '../core/outcome/index.ts';

/** Where what came from a phone waits: the laptop's own server. */
export interface Held<T> {
  readonly fetch: (item: T) => Promise<Outcome<Blob>>;
  readonly drop: (item: T) => Promise<unknown>;
}

/** What came of looking at what waits: how many are stored now, and what kept the others. */
export interface Taken {
  readonly stored: number;
  readonly problem?: Problem;
}

/**
 * Takes what waits one after another. One leaves the server only when `store` says that it is stored here; the first that
 * cannot be stored ends it, and that one and all after it go on waiting. `problemOf` says in words what `store` throws.
 */
export async function takeInbox<T>(
  waiting: readonly T[],
  { fetch, drop }: Held<T>,
  store: (item: T, file: Blob) => Promise<boolean>,
  problemOf: (error: unknown) => Problem,
): Promise<Taken> {
  let stored = 0;
  for (const item of waiting) {
    const file = await fetch(item);
    if (!file.ok) return { stored, problem: file.problem };
    try {
      if (!(await store(item, file.value))) return { stored };
    } catch (error) {
      return { stored, problem: problemOf(error) };
    }
    stored++;
    await drop(item);
  }
  return { stored };
}
