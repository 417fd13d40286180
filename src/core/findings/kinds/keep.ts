import { timesIn10 } from '../../say/index.ts';
import { isSpoilt, verdictOf } from '../../trial/index.ts';
import { hasFailed } from '../seen.ts';
import type { Kind } from './kind.ts';

/** Whether a patch was judged good enough to keep: how often it is. */
export const KEEP: Kind<'keep'> = {
  id: 'keep',
  name: 'Kept',
  goal: 'more',
  isChance: true,
  response: {
    noun: 'how often it is kept',
    more: 'is kept more often',
    heading: 'kept, times in 10',
    difference: value => timesIn10(10 * value),
    scale: { most: 10 },
    bounds: [0, 1],
    digits: 0,
    figures: 1,
  },
  values: (plan, records) =>
    new Map(
      plan.patches.flatMap(p =>
        !isSpoilt(records, p.code) && verdictOf(records, p.code)?.verdict === 'keep' ? [[p.code, 1]] : [],
      ),
    ),
  failed: (_, records) => code => {
    if (hasFailed(records, code)) return true;
    const verdict = isSpoilt(records, code) ? undefined : verdictOf(records, code)?.verdict;
    return verdict !== undefined && verdict !== 'keep';
  },
};
