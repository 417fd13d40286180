import { many, mL, say, type Words } from '../say/index.ts';
import type { Donor, Medium } from './schema.ts';

/** Running low: less than this share of a jar or a pack. */
const LOW = 0.2;

type Counted =
  | Pick<Medium, 'jarMl' | 'onHandMl' | 'counted'>
  | Pick<Donor, 'packSize' | 'onHand' | 'counted'>;

const leftOf = (item: Counted): readonly [left: number, whole: number] =>
  'jarMl' in item ? [item.onHandMl, item.jarMl] : [item.onHand, item.packSize];

/**
 * Whether what is on hand of a medium or a donor is counted: a number was written for it, or it was used up since.
 *
 * @example isCounted({ jarMl: 250, onHandMl: 0 }); // => false
 */
export const isCounted = (item: Counted): boolean => item.counted ?? leftOf(item)[0] > 0;

/**
 * Whether what is on hand of a medium or a donor is running low, or is gone. What nobody counts is not.
 *
 * @example isLowOn({ jarMl: 250, onHandMl: 49 }); // => true
 */
export function isLowOn(item: Counted): boolean {
  const [left, whole] = leftOf(item);
  return isCounted(item) && left < LOW * whole;
}

/**
 * What is on hand of a medium or a donor in words, with a word where it is low; nothing where it is not counted.
 *
 * @example write(onHandWords({ jarMl: 250, onHandMl: 49 })); // => '49 mL left, running low'
 */
export function onHandWords(item: Counted): Words {
  if (!isCounted(item)) return '';
  const [left] = leftOf(item);
  if (left <= 0) return 'none left';
  const amount = 'jarMl' in item ? mL(left) : many(left, 'sheet');
  return say`${amount} left${isLowOn(item) ? ', running low' : ''}`;
}
