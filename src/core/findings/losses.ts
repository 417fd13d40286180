import type { Response } from '../measures/index.ts';
import { points } from '../say/index.ts';
import { readingsOf, type TrialPlan, type TrialRecord, type WearTest } from '../trial/index.ts';

/** What a wear test took off a patch (docs/HANDBOOK.md §10). */
export interface Loss {
  readonly patch: string;
  readonly test: WearTest;
  /** Landed before and after, %. */
  readonly before: number;
  readonly after: number;
  /** Share of the picture that was there before and is gone, %; nought where more is seen than before. */
  readonly lost: number;
}

/**
 * What each wear test took off each patch: from the last dry photo before it, worn by the tests before it or as it was
 * made, to the last dry one after it. A practice photo is never compared with a real one, and a patch of which hardly
 * anything had landed has nothing to lose.
 *
 * @example lossesOf(plan, records); // => []
 */
export function lossesOf(plan: TrialPlan, records: readonly TrialRecord[]): Loss[] {
  return plan.patches.flatMap(({ code }) => {
    const dry = readingsOf(records, code).filter(
      r => r.photo.stage === 'dry' && r.reading.reading.landed !== null,
    );
    return plan.wear.flatMap((test, i): Loss[] => {
      const worn = dry.findLast(r => r.photo.worn === test);
      if (!worn) return [];
      const earlier = new Set<WearTest | undefined>([undefined, ...plan.wear.slice(0, i)]);
      const like = dry.filter(
        r =>
          earlier.has(r.photo.worn) &&
          r.photo.simulated === worn.photo.simulated &&
          r.reading.at < worn.reading.at,
      );
      const [before, after] = [like.at(-1)?.reading.reading.landed, worn.reading.reading.landed];
      if (before == null || after == null || before < LEAST) return [];
      return [{ patch: code, test, before, after, lost: Math.max(0, (100 * (before - after)) / before) }];
    });
  });
}

/** With less landed than this, %, a loss cannot be told from the reading's own give. */
const LEAST = 5;

/** Loss as a response: how it is said. */
export const AS_LOSS: Pick<Response, 'goal' | 'response'> = {
  goal: 'less',
  response: {
    noun: 'what is lost',
    more: 'loses less',
    heading: 'how much of the picture is lost',
    difference: value => points(value, { places: 1 }),
    scale: { atLeast: 20, atMost: 100 },
    bounds: [0, 100],
    digits: 0,
    figures: 1,
  },
};
