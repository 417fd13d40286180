import { readShelfCsv, type Shelf, type ShelfKind, shelfCsv } from '../../core/shelf/index.ts';
import { useWorkshopActions, type WorkshopName } from '../../store/index.ts';
import { asNotice, notSaved, useNotice } from '../ui/notices.tsx';
import { saveFile } from '../ui/save-file.ts';

/** Taking a list of the shelf out as CSV, and taking one in: checked whole before anything is stored. */
export function useShelfFile(workshop: WorkshopName, kind: ShelfKind, shelf: Shelf) {
  const tell = useNotice();
  const { saveItems } = useWorkshopActions(workshop);
  return {
    save: () =>
      saveFile(new Blob([shelfCsv(kind, shelf[kind] as never)], { type: 'text/csv' }), `${kind}.csv`),
    load: async (file: File) => {
      try {
        const read = readShelfCsv(
          kind,
          await file.text(),
          shelf[kind].map(i => i.id),
        );
        if (!read.ok) return tell(asNotice(read.problem));
        await saveItems(kind, read.value);
        tell({
          say: `${read.value.length} taken from ${file.name}. Items with the same id were brought up to date.`,
        });
      } catch (error) {
        tell(notSaved(error));
      }
    },
  };
}
