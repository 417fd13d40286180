import type { WorkshopName } from './stores.ts';

/**
 * Which trials were written to since their summaries were made: set at once and for all tabs, before the write itself.
 * Only to be quick: what it forgets is found by asking every log.
 */
export interface Marks {
  add(trial: string): void;
  remove(trial: string): void;
  has(trial: string): boolean;
}

/** Marks in the browser's small storage; nothing where that is blocked. */
export function browserMarks(name: WorkshopName): Marks | undefined {
  const keyOf = (trial: string) => `wet-test-${name}-written-${trial}`;
  try {
    localStorage.setItem(keyOf(''), '1');
    localStorage.removeItem(keyOf(''));
  } catch {
    return undefined;
  }
  const quietly = (work: () => void) => {
    try {
      work();
    } catch {
      // Full: then the trial is looked at when every log is asked.
    }
  };
  return {
    add: trial => quietly(() => localStorage.setItem(keyOf(trial), '1')),
    remove: trial => quietly(() => localStorage.removeItem(keyOf(trial))),
    has: trial => localStorage.getItem(keyOf(trial)) !== null,
  };
}
