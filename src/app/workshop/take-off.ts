import type { Words } from '../../core/say/index.ts';
import type { Amounts } from '../../core/stock/index.ts';
import { useShelf, useWorkshopActions, type WorkshopName } from '../../store/index.ts';
import { takeOff } from './take-off.model.ts';

/** Takes what was used off the shelf, or puts it back for less than nothing; says what is left. */
export function useTakeOff(workshop: WorkshopName): (used: Amounts) => Promise<Words> {
  const { saveItems } = useWorkshopActions(workshop);
  const shelf = useShelf(workshop).data?.shelf;
  return async used => (shelf ? takeOff(shelf, used, saveItems) : '');
}
