import * as v from 'valibot';
import type { Chance } from '../random/index.ts';

const count = v.pipe(v.number(), v.integer(), v.minValue(0));

/** What an eye has learnt so far: for each cause how firmly it sits, and in which round it is shown again. */
export const Learning = v.object({
  rounds: count,
  causes: v.record(v.string(), v.object({ box: v.pipe(count, v.maxValue(5)), due: count })),
  /** By symptom: how many were named rightly, of how many. */
  tally: v.record(v.string(), v.object({ right: count, of: count })),
});
export type Learning = v.InferOutput<typeof Learning>;

/** Nothing learnt yet. */
export const FRESH_EYE: Learning = { rounds: 0, causes: {}, tally: {} };

/** Rounds until something is shown again, by how firmly it sits: each time it is known, twice as long. */
const AGAIN_AFTER = [2, 4, 8, 16, 32, 64];

/**
 * The cause to show next: what is due, the least firm first; then what was never shown; then what is due soonest. Never
 * the one that was just shown, if there is another. Spaced repetition in boxes (Leitner, So lernt man lernen, 1972).
 *
 * @example nextCause({ rounds: 0, causes: {}, tally: {} }, ['dust'], undefined, { pick: all => all[0] }); // => 'dust'
 */
export function nextCause(
  { rounds, causes }: Learning,
  all: readonly string[],
  last: string | undefined,
  chance: Pick<Chance, 'pick'>,
): string {
  const others = all.length > 1 ? all.filter(c => c !== last) : all;
  const due = others.filter(c => causes[c] && causes[c].due <= rounds);
  if (due.length) {
    const least = Math.min(...due.map(c => causes[c].box));
    return chance.pick(due.filter(c => causes[c].box === least));
  }
  const unseen = others.filter(c => !causes[c]);
  if (unseen.length) return chance.pick(unseen);
  const soonest = Math.min(...others.map(c => causes[c].due));
  return chance.pick(others.filter(c => causes[c].due === soonest));
}

/** What was learnt after one round: `cause` was shown, and it and its symptom were named rightly or not. */
export function learnt(
  old: Learning,
  shown: { readonly cause: string; readonly symptom: string },
  named: { readonly cause: boolean; readonly symptom: boolean },
): Learning {
  const rounds = old.rounds + 1;
  const before = old.causes[shown.cause]?.box ?? 0;
  const box = named.cause ? Math.min(AGAIN_AFTER.length - 1, before + 1) : 0;
  const tally = old.tally[shown.symptom] ?? { right: 0, of: 0 };
  return {
    rounds,
    causes: { ...old.causes, [shown.cause]: { box, due: rounds + AGAIN_AFTER[box] } },
    tally: {
      ...old.tally,
      [shown.symptom]: { right: tally.right + Number(named.symptom && named.cause), of: tally.of + 1 },
    },
  };
}

/** So many answers to choose from. */
const ANSWERS = 4;

/**
 * The right answer among others, in an order that says nothing.
 *
 * @example answersFor('a', ['a'], { shuffle: all => [...all] }); // => ['a']
 */
export function answersFor(right: string, all: readonly string[], chance: Pick<Chance, 'shuffle'>): string[] {
  const others = chance.shuffle(all.filter(a => a !== right)).slice(0, ANSWERS - 1);
  return chance.shuffle([right, ...others]);
}
