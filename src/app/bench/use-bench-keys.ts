import { useEffect } from 'react';

/** Keys of the bench; none of them works while something is typed, and space and enter press a focused button or choose a focused place on the board. */
export function useBenchKeys(keys: Record<string, () => void>) {
  useEffect(() => {
    const listen = (e: KeyboardEvent) => {
      const { target } = e;
      if (target instanceof HTMLInputElement || e.ctrlKey || e.metaKey || e.altKey) return;
      const isPress = e.key === ' ' || e.key === 'Enter';
      const act = keys[isPress ? e.key : e.key.toLowerCase()];
      const isOwn = target instanceof Element && target.closest('button, .patch');
      if (!act || (isPress && isOwn)) return;
      e.preventDefault();
      if (!e.repeat) act();
    };
    window.addEventListener('keydown', listen);
    return () => window.removeEventListener('keydown', listen);
  });
}
