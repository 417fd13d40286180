import type { QueryClient } from '@tanstack/react-query';
import type { WorkshopName } from './stores.ts';

/** What was changed: one trial's records, or anything. */
interface Changed {
  readonly workshop: WorkshopName;
  readonly trial?: string;
}

const channel = typeof BroadcastChannel === 'undefined' ? undefined : new BroadcastChannel('wet-test');

/** Says to every other tab of this browser what was changed. */
export const tellOtherTabs = (workshop: WorkshopName, trial?: string): void =>
  channel?.postMessage({ workshop, ...(trial ? { trial } : {}) } satisfies Changed);

/** Queries whose answer never changes once it is there. */
const FIXED = ['photo', 'pixels', 'maps'];

/** Reads again what another tab changed; returns what ends it. */
export function followOtherTabs(client: QueryClient): () => void {
  const listen = ({ data }: MessageEvent<Changed>) =>
    void client.invalidateQueries({
      predicate: ({ queryKey: [kind, workshop, trial] }) =>
        workshop === data.workshop &&
        !FIXED.includes(String(kind)) &&
        (!data.trial || kind === 'overview' || trial === data.trial),
    });
  channel?.addEventListener('message', listen);
  return () => channel?.removeEventListener('message', listen);
}
