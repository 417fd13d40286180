import { useEffect } from 'react';
import { keyDoes } from './bench.model.ts';

/** Keys of the bench; none of them works while something is typed, and space and enter press a focused button or choose a focused place on the board. */
export function useBenchKeys(keys: Record<string, () => void>) {
  useEffect(() => {
    const listen = (e: KeyboardEvent) => {
      const { target } = e;
      const act = keyDoes(keys, {
        key: e.key,
        isWriting: target instanceof HTMLInputElement,
        isWithAnother: e.ctrlKey || e.metaKey || e.altKey,
        isOnControl: target instanceof Element && target.closest('button, .patch') !== null,
      });
      if (!act) return;
      e.preventDefault();
      if (!e.repeat) act();
    };
    window.addEventListener('keydown', listen);
    return () => window.removeEventListener('keydown', listen);
  });
}
