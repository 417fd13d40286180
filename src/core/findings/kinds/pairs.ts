import { pairsIn, rankingOf } from '../../judging/index.ts';
import { isSpoilt } from '../../trial/index.ts';
import { type Kind, timesInTen } from './kind.ts';

/** With fewer pairs for each patch than this there is no order yet. */
const LEAST_EACH = 1.5;

/**
 * What pairs say, as the chance in ten that a patch is better than one of this trial taken at random, by the worths of
 * Bradley and Terry with ties.
 */
export const PAIRS: Kind<'pairs'> = {
  id: 'pairs',
  name: 'Pairs',
  goal: 'more',
  response: timesInTen('the pairs', 'is better in pairs', 'better'),
  values: (plan, records) => {
    const pairs = pairsIn(records);
    const codes = plan.patches
      .map(p => p.code)
      .filter(c => !isSpoilt(records, c) && pairs.some(p => p.a === c || p.b === c));
    if (codes.length < 3 || pairs.length < LEAST_EACH * codes.length) return new Map();
    const { order } = rankingOf(codes, pairs);
    return new Map(
      order.map(({ code, worth }) => {
        const others = order.filter(o => o.code !== code);
        const beats = others.reduce((sum, o) => sum + 1 / (1 + Math.exp(o.worth - worth)), 0);
        return [code, (10 * beats) / others.length];
      }),
    );
  },
};
