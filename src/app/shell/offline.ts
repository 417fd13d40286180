import { useEffect, useState } from 'react';

/**
 * Keeps the app in this browser, so that it opens without a network, and tells when a newer version waits. `takeOver`
 * loads the newer one; until then nothing changes under anybody's hands.
 */
export function useOffline(): { readonly newer: boolean; takeOver(): void } {
  const [take, setTake] = useState<() => void>();
  useEffect(() => {
    if (!('serviceWorker' in navigator) || import.meta.env.DEV) return;
    let gone = false;
    const start = async () => {
      const { registerSW } = await import('virtual:pwa-register');
      const update = registerSW({
        immediate: true,
        onNeedRefresh: () => !gone && setTake(() => () => void update(true)),
      });
    };
    // Loading the rest of the app must not hold up what is looked at.
    const timer = setTimeout(() => void start().catch(() => {}), 1500);
    return () => {
      gone = true;
      clearTimeout(timer);
    };
  }, []);
  return { newer: take !== undefined, takeOver: () => take?.() };
}
