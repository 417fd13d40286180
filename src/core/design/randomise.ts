import type { Chance } from '../random/index.ts';
import type { Place } from './grid.ts';

/** One run of the design: its levels (none for a control), which repeat it is, and what it must stay with. */
export interface Run {
  readonly levels: readonly number[];
  readonly repeat: number;
  readonly board: number;
  /** The strip it has to lie in, counted over all boards, with the places of that strip. */
  readonly strip?: number;
  /** What is made together in time. */
  readonly group?: number;
}

/** A run with its place number on its board and its place in the order of work. */
export interface PlacedRun extends Run {
  readonly place: number;
  readonly order: number;
}

/**
 * Every combination of levels (full factorial), last factor fastest.
 *
 * @example allCombinations([2, 2]); // => [[0, 0], [0, 1], [1, 0], [1, 1]]
 */
export function allCombinations(counts: readonly number[]): number[][] {
  return counts.reduce<number[][]>(
    (rows, count) => rows.flatMap(row => Array.from({ length: count }, (_, level) => [...row, level])),
    [[]],
  );
}

const TRIES = 300;

export interface Field {
  readonly counts: readonly number[];
  /** The places of each board. */
  readonly places: (board: number) => readonly Place[];
  /** Places that belong to each strip; without strips every place of the board is open to every run. */
  readonly stripPlaces?: readonly (readonly number[])[];
  /** The groups are loads, numbered in the order in which they are made. */
  readonly loads?: boolean;
}

/**
 * Puts runs on the places of their boards and into an order of work, at random. The order goes board by board or,
 * where repeats are kept together, repeat by repeat, so that repeats are spread in time; grouped runs follow one another. Of 300 random placings
 * the one is taken whose repeats lie farthest apart, whose levels share the edge places most evenly, and where
 * no level comes only late; the same chance gives the same result.
 */
export function placeRuns(runs: readonly Run[], field: Field, chance: Chance): PlacedRun[] {
  const boards = [...new Set(runs.map(r => r.board))].sort((a, b) => a - b);
  const size = boards.map(b => runs.filter(r => r.board === b).length);
  const open = boards.map((b, i) =>
    field
      .places(b)
      .map((_, p) => p)
      .slice(0, Math.max(size[i], 0)),
  );
  const tries = runs.length > 150 ? 60 : TRIES;
  let best: PlacedRun[] = [];
  let bestScore = Number.NEGATIVE_INFINITY;
  for (let attempt = 0; attempt < tries; attempt++) {
    const ordered = inOrder(runs, chance, field.loads);
    const placed = boards.flatMap((board, i) => {
      const own = ordered.filter(r => r.board === board);
      if (field.stripPlaces) return inStrips(own, field.stripPlaces, chance);
      const shuffled = chance.shuffle(open[i]);
      return own.map((run, k) => ({ ...run, place: shuffled[k] }));
    });
    const score = placingScore(placed, field);
    if (score > bestScore) [best, bestScore] = [placed, score];
  }
  return best.sort((a, b) => a.order - b.order);
}

/** Board by board; on a board repeat by repeat, in groups where there are any; shuffled inside. */
function inOrder(runs: readonly Run[], chance: Chance, loads = false): (Run & { order: number })[] {
  const keys = new Map<string, number>();
  const shuffled = chance.shuffle(runs);
  for (const run of shuffled) {
    const key = `${run.repeat} ${run.group ?? ''}`;
    if (!keys.has(key)) keys.set(key, keys.size);
  }
  return shuffled
    .map((run, i) => ({ run, i }))
    .sort(
      (a, b) =>
        (loads ? a.run.group! - b.run.group! || a.i - b.i : 0) ||
        a.run.board - b.run.board ||
        (a.run.group === undefined
          ? a.run.repeat - b.run.repeat
          : keys.get(`${a.run.repeat} ${a.run.group}`)! - keys.get(`${b.run.repeat} ${b.run.group}`)!) ||
        a.i - b.i,
    )
    .map(({ run }, order) => ({ ...run, order }));
}

function inStrips(
  runs: readonly (Run & { order: number })[],
  stripPlaces: readonly (readonly number[])[],
  chance: Chance,
): PlacedRun[] {
  const free = stripPlaces.map(places => chance.shuffle(places));
  const next = free.map(() => 0);
  const takeFrom = (run: Run) => {
    const s = run.strip! % stripPlaces.length;
    return free[s][next[s]++];
  };
  return runs.map(run => ({ ...run, place: takeFrom(run) }));
}

/** Higher is better: nearest distance between repeats (in pitches) less uneven edges and lateness. */
function placingScore(placed: readonly PlacedRun[], { counts, places }: Field): number {
  const pitches = new Map<number, number>();
  const pitchOf = (board: number) => {
    const known = pitches.get(board);
    if (known !== undefined) return known;
    const [a, b] = places(board);
    const pitch = b ? Math.max(b.x - a.x, b.y - a.y, 1) : 1;
    pitches.set(board, pitch);
    return pitch;
  };
  let nearest = 3;
  const byLevels = new Map<string, PlacedRun[]>();
  for (const run of placed) {
    const key = run.levels.join();
    const before = byLevels.get(key) ?? [];
    for (const other of before) {
      if (other.board !== run.board) continue;
      const a = places(run.board)[run.place];
      const b = places(run.board)[other.place];
      nearest = Math.min(nearest, Math.hypot(a.x - b.x, a.y - b.y) / pitchOf(run.board));
    }
    before.push(run);
    byLevels.set(key, before);
  }
  let unevenness = 0;
  let stuck = 0;
  const edgeShare = placed.filter(r => places(r.board)[r.place].edge).length / placed.length;
  counts.forEach((count, factor) => {
    for (let level = 0; level < count; level++) {
      const runs = placed.filter(r => r.levels[factor] === level);
      if (!runs.length) continue;
      const atEdge = runs.filter(r => places(r.board)[r.place].edge).length;
      unevenness = Math.max(unevenness, Math.abs(atEdge / runs.length - edgeShare));
      if (runs.length > 1) {
        if (edgeShare < 1 && atEdge === runs.length) stuck++;
        if (runs.every(r => r.order >= placed.length * 0.6)) stuck++;
      }
    }
  });
  return nearest - 3 * unevenness - 10 * stuck;
}
