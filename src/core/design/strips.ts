import { bad, good, type Outcome } from '../outcome/index.ts';
import type { Chance } from '../random/index.ts';
import { mm, say } from '../say/index.ts';
import { sizeOf } from '../trial/index.ts';
import { type BoardGrid, sideFor } from './grid.ts';
import type { Run } from './randomise.ts';
import { MOST_SIDE_MM, type PlanRequest } from './request.ts';

interface StripAsk {
  readonly ask: PlanRequest;
  /** The place of the factor that whole strips get. */
  readonly factor: number;
  readonly grid: BoardGrid;
  readonly gutterMm: number;
  readonly marginMm: number;
  readonly feasible: readonly (readonly number[])[];
  readonly chance: Chance;
}

/**
 * Lays a board out in strips of whole columns: each strip gets one level of the strip factor (a whole plot), and
 * inside it every combination of the others once (sub-plots); a split-plot design (Yates 1935). Levels are dealt
 * to strips so that each comes once before any comes again, in random order. Returns runs with their strips and
 * the places each strip of a board has.
 */
export function layStrips({ ask, factor, grid, gutterMm, marginMm, feasible, chance }: StripAsk): Outcome<{
  readonly runs: readonly Run[];
  readonly stripPlaces: readonly (readonly number[])[];
  readonly boards: number;
}> {
  const levels = ask.factors[factor].levels.map((_, level) => feasible.filter(run => run[factor] === level));
  const most = Math.max(...levels.map(l => l.length));
  const columns = Array.from({ length: grid.cols }, (_, col) =>
    grid.places.flatMap((p, i) => (p.col === col ? [i] : [])),
  );
  const needed = most + (ask.control ? 1 : 0);
  const stripPlaces: number[][] = [];
  for (let col = 0; col < columns.length; ) {
    const places: number[] = [];
    while (col < columns.length && places.length < needed) places.push(...columns[col++]);
    if (places.length >= needed) stripPlaces.push(places);
  }
  if (!stripPlaces.length) {
    // A strip as high as the board, one for every kind of it.
    const { w, h } = sizeOf(ask);
    const board = {
      w: Math.max(ask.board.w, sideFor(levels.length, w, gutterMm, marginMm)),
      h: sideFor(needed, h, gutterMm, marginMm),
    };
    const would = ask.board.outline === 'rectangle' && Math.max(board.w, board.h) <= MOST_SIDE_MM;
    return bad(
      'strip-too-small',
      `A strip has to hold ${needed} patches, and the whole board holds ${grid.places.length}.`,
      would
        ? say`Take a board of ${mm(board.w, { by: board.h })}, or vary fewer things inside a strip.`
        : 'Take a larger board, or vary fewer things inside a strip.',
      would ? { board } : {},
    );
  }
  const order = Array.from({ length: ask.repeats }, (_, repeat) =>
    chance.shuffle(levels.map((_, level) => ({ level, repeat }))),
  ).flat();
  const runs: Run[] = order.flatMap(({ level, repeat }, strip) => {
    const board = Math.floor(strip / stripPlaces.length);
    return levels[level].map(combination => ({ levels: combination, repeat, board, strip }));
  });
  const boards = Math.ceil(order.length / stripPlaces.length);
  if (ask.control)
    for (let board = 0; board < boards; board++) {
      const inBoard = runs.filter(r => r.board === board).map(r => r.strip!);
      runs.push({ levels: [], repeat: 0, board, strip: chance.pick(inBoard) });
    }
  return good({ runs, stripPlaces, boards });
}
