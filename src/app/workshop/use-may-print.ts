import { useCallback, useRef } from 'react';
import type { Sheets } from '../../core/sheets/index.ts';
import { boxesOn } from '../../workers/index.ts';
import { boxWords } from '../ui/box-words.ts';
import { useNotice } from '../ui/notices.tsx';

/**
 * Asks whether sheets can be saved as they are: where letters on them would print as boxes this is said first, and only a
 * second press saves.
 */
export function useMayPrint(): (all: readonly Sheets[]) => Promise<boolean> {
  const tell = useNotice();
  const told = useRef(new Set<string>());
  return useCallback(
    async all => {
      const letters = (await boxesOn(all)).filter(letter => !told.current.has(letter));
      if (!letters.length) return true;
      for (const letter of letters) told.current.add(letter);
      tell({
        say: boxWords(letters),
        wayOut: 'Write it in other letters, or press once more to save it so.',
        wrong: true,
      });
      return false;
    },
    [tell],
  );
}
