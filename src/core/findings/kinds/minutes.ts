import { progressOf } from '../../progress/index.ts';
import { workMinutes } from '../../say/index.ts';
import { handsOnMin } from '../../steps/index.ts';
import type { Kind } from './kind.ts';

/** Who takes more than so many times what a step is stated to take, and more than ten minutes, was called away. */
const CALLED_AWAY = 4;
const AWAY_MIN = 10;

/** Minutes of work that hands had with a patch, as the bench saw them: only patches of which every step's beginning is known. */
export const MINUTES: Kind<'minutes'> = {
  id: 'minutes',
  name: 'Work',
  goal: 'less',
  response: {
    noun: 'the work',
    more: 'takes less work',
    heading: 'minutes of work on a patch',
    difference: workMinutes,
    scale: { atLeast: 5, atMost: 240 },
    bounds: [0, 240],
    digits: 1,
    figures: 1,
  },
  values: (plan, records) =>
    new Map(
      progressOf(plan, records).lines.flatMap(line => {
        let sum = 0;
        for (const [i, { step }] of line.chain.entries()) {
          const [from, to] = [line.begunAt[i], line.doneAt[i]];
          if (from === undefined || to === undefined) return [];
          const taken = (to - from) / 60_000;
          const stated = handsOnMin(step, line);
          sum += taken > Math.max(AWAY_MIN, CALLED_AWAY * stated) ? stated : taken;
        }
        return sum > 0 && sum < 240 ? [[line.patch.code, sum] as const] : [];
      }),
    ),
};
