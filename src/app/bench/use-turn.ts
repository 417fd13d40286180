import { useEffect, useState } from 'react';

/**
 * Whose turn it is at a bench: of several tabs of one browser one acts and the others follow. Takes the turn when
 * nobody has it; `take` takes it away from the other. Where the browser has no locks every tab acts.
 */
export function useTurn(bench: string): { readonly mine: boolean; take(): void } {
  const [mine, setMine] = useState(!navigator.locks);
  const [tries, setTries] = useState(0);
  useEffect(() => {
    if (!navigator.locks) return;
    let release = () => {};
    let gone = false;
    const hold = () => {
      if (gone) return Promise.resolve();
      setMine(true);
      return new Promise<void>(resolve => {
        release = resolve;
      });
    };
    const name = `wet-test bench ${bench}`;
    const control = new AbortController();
    const asked =
      tries > 0
        ? navigator.locks.request(name, { steal: true }, hold)
        : navigator.locks.request(name, { signal: control.signal }, hold);
    asked.catch(() => {
      // Another tab took the turn: this one follows until it asks again.
      if (!gone) setMine(false);
    });
    return () => {
      gone = true;
      control.abort();
      release();
    };
  }, [bench, tries]);
  return { mine, take: () => setTries(n => n + 1) };
}
