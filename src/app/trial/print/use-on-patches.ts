import { useQuery } from '@tanstack/react-query';
import type { SheetOptions } from '../../../core/sheets/index.ts';
import { pictureFiles, pictureRoom } from '../../../core/trial/index.ts';
import { workshopOf } from '../../../store/index.ts';
import { printPicture } from '../../../workers/index.ts';
import type { TrialView } from '../view.tsx';

const ALL = { x: 0, y: 0, w: 1, h: 1 };

/** The pictures that the patches of a trial carry, as they are printed; `isDrawing` until they are there. */
export function useOnPatches({ workshop, plan, records }: TrialView): {
  readonly onPatches: SheetOptions['onPatches'];
  readonly isDrawing: boolean;
} {
  const files = [...pictureFiles(records)];
  const { data, isLoading } = useQuery({
    queryKey: ['printed on patches', workshop, plan.id, files.join()],
    enabled: files.length > 0,
    gcTime: 60_000,
    queryFn: async () => {
      const drawn: Record<string, { seen: Uint8Array; mirrored: Uint8Array }> = {};
      for (const [id, file] of files) {
        const on = plan.pictures?.find(p => p.id === id);
        const png = on && (await workshopOf(workshop).photo(plan.id, file));
        if (!on || !png) continue;
        const size = { ...pictureRoom(plan, on), part: ALL };
        drawn[id] = {
          seen: new Uint8Array(await png.arrayBuffer()),
          mirrored: await printPicture(png, [], size, true),
        };
      }
      return drawn;
    },
  });
  return { onPatches: data, isDrawing: isLoading };
}
