import type { Donor, Medium } from './schema.ts';

/** Running low: less than this share of a jar or a pack. */
const LOW = 0.2;

/**
 * Whether what is on hand of a medium or a donor is running low. What nobody counts (none on hand) is not.
 *
 * @example isLowOn({ jarMl: 250, onHandMl: 49 }); // => true
 */
export function isLowOn(
  item: Pick<Medium, 'jarMl' | 'onHandMl'> | Pick<Donor, 'packSize' | 'onHand'>,
): boolean {
  const [left, whole] = 'jarMl' in item ? [item.onHandMl, item.jarMl] : [item.onHand, item.packSize];
  return left > 0 && left < LOW * whole;
}
