import type { Chance } from '../random/index.ts';

/** One run of the design: its levels and which repeat it is. */
export interface Run {
  readonly levels: readonly number[];
  readonly repeat: number;
}

/** A run with its board, place number on that board, and place in the order of work. */
export interface PlacedRun extends Run {
  readonly board: number;
  readonly place: number;
  readonly order: number;
}

/** Every combination of levels (full factorial), last factor fastest. */
export function allCombinations(counts: readonly number[]): number[][] {
  return counts.reduce<number[][]>(
    (rows, count) => rows.flatMap(row => Array.from({ length: count }, (_, level) => [...row, level])),
    [[]],
  );
}

const TRIES = 300;

/**
 * Puts every combination × repeat on places of boards and into an order of work, at random.
 * The order is a randomised block design: repeat 1 of everything, shuffled, then repeat 2, so that
 * repeats are spread in time. Of 300 random placings the one is taken whose repeats lie farthest
 * apart and whose levels share the edge places most evenly; the same chance gives the same result.
 */
export function placeRuns(
  counts: readonly number[],
  repeats: number,
  places: readonly { x: number; y: number; edge: boolean }[],
  chance: Chance,
): PlacedRun[] {
  const combinations = allCombinations(counts);
  const order = Array.from({ length: repeats }, (_, repeat) =>
    chance.shuffle(combinations).map((levels): Run => ({ levels, repeat })),
  ).flat();
  const boards = Math.ceil(order.length / places.length);
  const perBoard = Math.ceil(order.length / boards);
  const slots = Array.from({ length: boards }, (_, board) =>
    spread(places, Math.min(perBoard, order.length - board * perBoard)).map(place => ({ board, place })),
  );

  let best: PlacedRun[] = [];
  let bestScore = Number.NEGATIVE_INFINITY;
  for (let attempt = 0; attempt < TRIES; attempt++) {
    const placed = slots.flatMap((boardSlots, board) => {
      const runs = order.slice(board * perBoard, board * perBoard + boardSlots.length);
      const shuffled = chance.shuffle(boardSlots);
      return runs.map((run, i) => ({ ...run, ...shuffled[i], order: board * perBoard + i }));
    });
    const score = placingScore(placed, counts, places);
    if (score > bestScore) [best, bestScore] = [placed, score];
  }
  return best;
}

/** The first `count` places in reading order: a part-filled board is filled from the top. */
const spread = (places: readonly unknown[], count: number) =>
  Array.from({ length: Math.min(count, places.length) }, (_, i) => i);

/** Higher is better: nearest distance between repeats (in pitches) less the unevenness of edge places. */
function placingScore(
  placed: readonly PlacedRun[],
  counts: readonly number[],
  places: readonly { x: number; y: number; edge: boolean }[],
): number {
  const pitch = places.length > 1 ? Math.max(places[1].x - places[0].x, places[1].y - places[0].y, 1) : 1;
  let nearest = 3;
  const byLevels = new Map<string, PlacedRun[]>();
  for (const run of placed) {
    const key = run.levels.join();
    for (const other of byLevels.get(key) ?? []) {
      if (other.board !== run.board) continue;
      const a = places[run.place];
      const b = places[other.place];
      nearest = Math.min(nearest, Math.hypot(a.x - b.x, a.y - b.y) / pitch);
    }
    byLevels.set(key, [...(byLevels.get(key) ?? []), run]);
  }
  let unevenness = 0;
  const edgeShare = placed.filter(r => places[r.place].edge).length / placed.length;
  counts.forEach((count, factor) => {
    for (let level = 0; level < count; level++) {
      const runs = placed.filter(r => r.levels[factor] === level);
      const share = runs.filter(r => places[r.place].edge).length / runs.length;
      unevenness = Math.max(unevenness, Math.abs(share - edgeShare));
    }
  });
  return nearest - 3 * unevenness;
}
