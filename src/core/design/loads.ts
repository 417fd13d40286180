import type { Chance } from '../random/index.ts';
import { dealToBoards } from './boards.ts';
import type { Pairs } from './model.ts';
import type { Run } from './randomise.ts';

export interface Loading {
  /** Most pieces a load holds; without it a load holds all that belongs together. */
  readonly most: number;
  /** Place of the factor whose levels never share a load (an oven's heat), or −1. */
  readonly grouped: number;
  /** Every run is a piece of its own, so that a load may hold pieces of any board number. */
  readonly onePiece: boolean;
  readonly counts: readonly number[];
  readonly pairs: Pairs;
}

/**
 * Deals runs out to loads that are made one after the other: each load holds at most `most` runs, of one board
 * where boards carry several. Loads are blocks: runs are dealt so that load and effects can be told apart as
 * well as they can (see {@link dealToBoards}); with a grouped factor each load has one of its levels. Loads come
 * in random order. Returns the runs with `group` the number of their load; single pieces get their board number
 * in the order of loads.
 */
export function dealToLoads(runs: readonly Run[], loading: Loading, chance: Chance): Run[] {
  const parts = new Map<number, Run[]>();
  for (const run of runs) {
    const part = loading.onePiece ? (Number.isFinite(loading.most) ? 0 : run.repeat) : run.board;
    parts.set(part, [...(parts.get(part) ?? []), run]);
  }
  const loads = [...parts.keys()]
    .sort((a, b) => a - b)
    .flatMap(part => chance.shuffle(loadsOf(parts.get(part)!, loading, chance)));
  let piece = 0;
  return loads.flatMap((load, group) =>
    load.map(run => ({ ...run, group, board: loading.onePiece ? piece++ : run.board })),
  );
}

function loadsOf(part: readonly Run[], loading: Loading, chance: Chance): Run[][] {
  const { grouped, most } = loading;
  if (grouped >= 0) {
    const levels = [...new Set(part.map(r => r.levels[grouped] ?? -1))];
    return levels.flatMap(level =>
      split(chance.shuffle(part.filter(r => (r.levels[grouped] ?? -1) === level)), most),
    );
  }
  const real = part.filter(r => r.levels.length);
  const usual = part.filter(r => !r.levels.length);
  const sizes = evenSizes(part.length, most);
  // A control takes a place in the last loads, so that none of them holds more than it can.
  usual.forEach((_, i) => {
    sizes[sizes.length - 1 - (i % sizes.length)]--;
  });
  const dealt = dealToBoards(
    real.map(r => r.levels),
    sizes,
    loading.counts,
    loading.pairs,
    chance,
  );
  const loads = sizes.map((_, load) => real.filter((__, i) => dealt[i] === load));
  usual.forEach((run, i) => {
    loads[loads.length - 1 - (i % loads.length)].push(run);
  });
  return loads.filter(load => load.length);
}

/** Sizes that differ by one at most and none above `most`. */
function evenSizes(count: number, most: number): number[] {
  const loads = Math.ceil(count / Math.min(most, count));
  return Array.from({ length: loads }, (_, i) => Math.floor(count / loads) + (i < count % loads ? 1 : 0));
}

function split(runs: readonly Run[], most: number): Run[][] {
  let from = 0;
  return evenSizes(runs.length, most).map(size => {
    from += size;
    return runs.slice(from - size, from);
  });
}
