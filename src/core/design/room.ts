import { bad, good, type Outcome } from '../outcome/index.ts';
import { carrierName, carrierOf, type Piece, sizeOf, type TrialPlan } from '../trial/index.ts';
import { type Sides, sidesWords } from '../units/index.ts';
import { boardGrid } from './grid.ts';

/** A board of another trial as a piece for a new one, and how many of its patches have room there. */
export interface RoomOn {
  readonly piece: Piece;
  readonly room: number;
}

interface Needs {
  readonly patch: Sides;
  readonly gutterMm: number;
  readonly marginMm: number;
}

/** The board a piece is, whoever it belongs to. */
const homeOf = (plan: TrialPlan, board: number) => plan.pieces?.[board]?.of ?? { trial: plan.id, board };

/**
 * The boards of a trial that have room for patches of another, with what all trials have on them. Fails with a
 * sentence where there is none.
 *
 * @param others every other trial: some may lie on the same boards.
 *
 * @example roomOn(plan, [], { patch: 200, gutterMm: 10, marginMm: 12 }).ok; // => false
 */
export function roomOn(
  plan: TrialPlan,
  others: readonly TrialPlan[],
  { patch, gutterMm, marginMm }: Needs,
): Outcome<readonly RoomOn[]> {
  if (plan.board.onePiece)
    return bad('one-piece', `Every patch of ${plan.code} is a piece by itself: there is nothing to share.`);
  const found = Array.from({ length: plan.board.count }, (_, board): RoomOn => {
    const { w, h, outline, corners } = carrierOf(plan, board);
    const of = homeOf(plan, board);
    const taken = [plan, ...others.filter(o => o.id !== plan.id)].flatMap(trial =>
      trial.patches
        .filter(p => {
          const home = homeOf(trial, p.board);
          return home.trial === of.trial && home.board === of.board;
        })
        .map(({ x, y, code }) => ({ x, y, ...sizeOf(trial), code })),
    );
    const piece: Piece = {
      name: `${plan.code}, ${carrierName(plan, board).toLowerCase()}`.slice(0, 40),
      ...{ w, h, outline: outline ?? 'rectangle', of, taken },
      ...(corners ? { corners } : {}),
    };
    return { piece, room: boardGrid(piece, patch, gutterMm, marginMm).places.length };
  }).filter(b => b.room > 0);
  return found.length
    ? good(found)
    : bad(
        'full',
        `No board of ${plan.code} has room for a patch of ${sidesWords(patch)}.`,
        'Take another trial.',
      );
}
