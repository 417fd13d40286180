import type { QueryClient } from '@tanstack/react-query';
import type { WorkshopName } from './workshop.ts';

const channel = typeof BroadcastChannel === 'undefined' ? undefined : new BroadcastChannel('wet-test');

/** Says to every other tab of this browser that something in a workshop was changed. */
export const tellOtherTabs = (workshop: WorkshopName): void => channel?.postMessage(workshop);

/** Reads again what another tab changed; returns what ends it. */
export function followOtherTabs(client: QueryClient): () => void {
  const listen = ({ data }: MessageEvent<WorkshopName>) =>
    void client.invalidateQueries({
      predicate: q => q.queryKey[1] === data && q.queryKey[0] !== 'photo' && q.queryKey[0] !== 'pixels',
    });
  channel?.addEventListener('message', listen);
  return () => channel?.removeEventListener('message', listen);
}
