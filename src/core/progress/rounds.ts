import type { PatchProgress } from './progress.ts';

const ofRounds = (line: Pick<PatchProgress, 'chain'>) => line.chain.filter(l => l.step.eachRound);

/**
 * How many rounds patches go through at the most; none where their method has no rounds.
 *
 * @example mostRounds(progress.lines); // => 2
 */
export const mostRounds = (lines: readonly Pick<PatchProgress, 'chain'>[]): number =>
  Math.max(0, ...lines.flatMap(ofRounds).map(l => l.round));

/**
 * The round a photo of a patch most likely comes after: the last one of which something was done, else its last of all.
 *
 * @example roundNow(line); // => 2
 */
export function roundNow(line: Pick<PatchProgress, 'chain' | 'doneAt'>): number {
  const done = line.chain.flatMap((l, i) =>
    l.step.eachRound && line.doneAt[i] !== undefined ? [l.round] : [],
  );
  return Math.max(1, done.length ? Math.max(...done) : mostRounds([line]));
}
