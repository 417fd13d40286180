import { useMemo } from 'react';
import { workingWith } from '../../core/schedule/index.ts';
import { useShelf, type WorkshopName } from '../../store/index.ts';
import { useSettings } from '../ui/settings.tsx';

/** How the maker works, with what they left open taken from the tools on the shelf; the same object until either changes. */
export function useWorking(workshop: WorkshopName) {
  const { settings } = useSettings();
  const tools = useShelf(workshop).data?.shelf.tools;
  return useMemo(() => workingWith(settings.working, tools ?? []), [settings.working, tools]);
}
