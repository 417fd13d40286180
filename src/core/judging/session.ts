import { readingOf, standing, type TrialRecord, verdictOf } from '../trial/index.ts';
import type { Pair } from './pairs.ts';

/**
 * Whether something was judged blind and nobody has been shown yet which patch was which: then no view may tell.
 *
 * @example isBlind([]); // => false
 */
export function isBlind(records: readonly TrialRecord[]): boolean {
  const last = standing(records).findLast(
    r => r.kind === 'unblind' || r.kind === 'pair' || (r.kind === 'verdict' && r.blind),
  );
  return last !== undefined && last.kind !== 'unblind';
}

/**
 * The pairs of a trial as they were judged.
 *
 * @example pairsIn([]); // => []
 */
export const pairsIn = (records: readonly TrialRecord[]): Pair[] =>
  standing(records).flatMap((r): Pair[] =>
    r.kind === 'pair' && r.patch
      ? [
          {
            ...{ a: r.patch, b: r.other, judge: r.judge },
            better: r.better === 'this' ? 'a' : r.better === 'other' ? 'b' : 'neither',
          },
        ]
      : [],
  );

/** Where an eye and the machine say the opposite of a patch. */
export interface Disagreement {
  readonly code: string;
  readonly verdict: 'keep' | 'scrap';
  readonly landed: number;
}

/** So much landed is little, and is nearly all, %. */
const LITTLE = 70;
const NEARLY_ALL = 95;

/**
 * Patches that were kept though little landed, or scrapped though nearly all did.
 *
 * @example disagreements([], records); // => []
 */
export const disagreements = (codes: readonly string[], records: readonly TrialRecord[]): Disagreement[] =>
  codes.flatMap((code): Disagreement[] => {
    const verdict = verdictOf(records, code)?.verdict;
    const landed = readingOf(records, code)?.reading.reading.landed;
    if (landed == null || !verdict || verdict === 'fix') return [];
    const isOdd = verdict === 'keep' ? landed < LITTLE : landed > NEARLY_ALL;
    return isOdd ? [{ code, verdict, landed }] : [];
  });
