import { allCombinations, bestFraction } from '../src/core/design/index.ts';
import { chanceFrom } from '../src/core/random/index.ts';

interface Case {
  readonly name: string;
  readonly counts: readonly number[];
  readonly runs: number;
  /** Leaves out some combinations, as rules do. */
  readonly keep: (levels: readonly number[]) => boolean;
  readonly reference?: number;
}

const CASES: readonly Case[] = [
  {
    name: '6 factors, levels 2 3 4 2 3 4, 32 runs',
    counts: [2, 3, 4, 2, 3, 4],
    runs: 32,
    keep: l => !(l[0] === 1 && l[2] === 3),
    reference: 2000,
  },
  {
    name: '8 factors, levels 2 2 3 3 2 4 2 3, 64 runs',
    counts: [2, 2, 3, 3, 2, 4, 2, 3],
    runs: 64,
    keep: l => !(l[2] === 2 && l[5] === 3),
  },
];

/** Seconds the planner's search takes with 20 restarts, and how near it comes to the best of many more. */
export function benchDesigns(tell: (line: string) => void) {
  tell(
    'design                                         candidates  seconds  D-efficiency  of the best of many restarts',
  );
  for (const c of CASES) {
    const candidates = allCombinations(c.counts).filter(c.keep);
    const search = (restarts: number, seed: number) =>
      bestFraction({ counts: c.counts, pairs: [], runs: c.runs, candidates, restarts }, chanceFrom(seed));
    const start = performance.now();
    const found = search(20, 1);
    const seconds = (performance.now() - start) / 1000;
    const best = c.reference ? search(c.reference, 2).efficiency : undefined;
    const share = best ? `${((100 * found.efficiency) / best).toFixed(2)} % (${c.reference})` : '';
    tell(
      `${c.name.padEnd(46)} ${String(candidates.length).padStart(10)}  ${seconds.toFixed(2).padStart(7)}  ${found.efficiency.toFixed(5).padStart(12)}  ${share}`,
    );
  }
}
