import type { Words } from '../../core/say/index.ts';
import type { Shelf, ShelfItem } from '../../core/shelf/index.ts';
import { type Amounts, takenOff } from '../../core/stock/index.ts';

/** Takes what was used off the shelf (or puts it back, for less than nothing) and stores what changed; what is left, in words. */
export async function takeOff(
  shelf: Shelf,
  used: Amounts,
  save: (kind: 'mediums' | 'donors', items: readonly ShelfItem[]) => Promise<unknown>,
): Promise<Words> {
  const { mediums, donors, words } = takenOff(shelf, used);
  if (mediums.length) await save('mediums', mediums);
  if (donors.length) await save('donors', donors);
  return words;
}
