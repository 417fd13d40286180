import type { Chance } from '../random/index.ts';
import { logDeterminant, modelRows, type Pairs } from './model.ts';

/**
 * Deals runs out to boards (blocks) of given sizes so that board differences can be told from the effects: starts
 * at random and swaps runs between boards while |X'X| with block columns grows (Cook & Nachtsheim 1989).
 * Returns the board of every run.
 */
export function dealToBoards(
  runs: readonly (readonly number[])[],
  sizes: readonly number[],
  counts: readonly number[],
  pairs: Pairs,
  chance: Chance,
): number[] {
  const slots = sizes.flatMap((size, board) => new Array<number>(size).fill(board));
  if (sizes.length < 2) return slots;
  const main = runs.map(modelRows(counts, pairs));
  const value = (boards: readonly number[]) => {
    const rows = main.map((row, i) => [
      ...row,
      ...sizes.slice(1).map((_, b) => (boards[i] === b + 1 ? 1 : 0)),
    ]);
    const exact = logDeterminant(rows);
    return Number.isFinite(exact) ? exact : -1e6 - unevenness(runs, boards, sizes.length, counts);
  };
  const deal = (): number[] => {
    const boards = new Array<number>(runs.length);
    chance.shuffle(runs.map((_, i) => i)).forEach((run, i) => {
      boards[run] = slots[i];
    });
    return boards;
  };
  let best: number[] = [];
  let bestValue = Number.NEGATIVE_INFINITY;
  const starts = runs.length > 60 ? 1 : 3;
  for (let start = 0; start < starts; start++) {
    const boards = deal();
    let current = value(boards);
    let budget = 1500;
    for (let changed = true; changed && budget > 0; ) {
      changed = false;
      for (let i = 0; i < runs.length && budget > 0; i++)
        for (let j = i + 1; j < runs.length && budget > 0; j++) {
          if (boards[i] === boards[j]) continue;
          budget--;
          [boards[i], boards[j]] = [boards[j], boards[i]];
          const next = value(boards);
          if (next > current + 1e-9) {
            current = next;
            changed = true;
          } else [boards[i], boards[j]] = [boards[j], boards[i]];
        }
    }
    if (current > bestValue) [best, bestValue] = [boards, current];
  }
  return best;
}

/** Sum of squared differences between the boards' shares of every level. */
function unevenness(
  runs: readonly (readonly number[])[],
  boards: readonly number[],
  boardCount: number,
  counts: readonly number[],
): number {
  let sum = 0;
  counts.forEach((levels, f) => {
    for (let level = 0; level < levels; level++) {
      const per = new Array<number>(boardCount).fill(0);
      runs.forEach((r, i) => {
        if (r[f] === level) per[boards[i]]++;
      });
      const mean = per.reduce((a, b) => a + b, 0) / boardCount;
      sum += per.reduce((a, n) => a + (n - mean) ** 2, 0);
    }
  });
  return sum;
}
