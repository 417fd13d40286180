import { type Amounts, takenOff } from '../../core/stock/index.ts';
import { useShelf, useWorkshopActions, type WorkshopName } from '../../store/index.ts';

/** Takes what was used off the shelf, or puts it back for less than nothing; says what is left. */
export function useTakeOff(workshop: WorkshopName): (used: Amounts) => Promise<string> {
  const { saveItems } = useWorkshopActions(workshop);
  const shelf = useShelf(workshop).data?.shelf;
  return async used => {
    if (!shelf) return '';
    const { mediums, donors, words } = takenOff(shelf, used);
    if (mediums.length) await saveItems('mediums', [...mediums]);
    if (donors.length) await saveItems('donors', [...donors]);
    return words;
  };
}
