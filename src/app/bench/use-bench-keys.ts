import { useEffect } from 'react';

/** Keys of the bench; none of them works while something is typed, and space and enter press a focused button. */
export function useBenchKeys(keys: Record<string, () => void>) {
  useEffect(() => {
    const listen = (e: KeyboardEvent) => {
      const { target } = e;
      if (target instanceof HTMLInputElement || e.ctrlKey || e.metaKey || e.altKey) return;
      const isPress = e.key === ' ' || e.key === 'Enter';
      const act = keys[isPress ? e.key : e.key.toLowerCase()];
      if (!act || (isPress && target instanceof HTMLButtonElement)) return;
      e.preventDefault();
      if (!e.repeat) act();
    };
    window.addEventListener('keydown', listen);
    return () => window.removeEventListener('keydown', listen);
  });
}
