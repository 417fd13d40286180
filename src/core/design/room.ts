import { bad, good, type Outcome } from '../outcome/index.ts';
import { patchStatus, progressOf, type Trialled } from '../progress/index.ts';
import { say, sized, within } from '../say/index.ts';
import { carrierName, carrierOf, type Piece, planNow, sizeOf, type TrialPlan } from '../trial/index.ts';
import { type Sides, sidesOf } from '../units/index.ts';
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
      name: `${plan.code}, ${within(carrierName(plan, board))}`.slice(0, 40),
      ...{ w, h, outline: outline ?? 'rectangle', of, taken },
      ...(corners ? { corners } : {}),
    };
    return { piece, room: boardGrid(piece, patch, gutterMm, marginMm).places.length };
  }).filter(b => b.room > 0);
  return found.length
    ? good(found)
    : bad(
        'full',
        say`No board of ${plan.code} has room for a patch of ${sized(patch)}.`,
        'Take another trial.',
      );
}

/**
 * The finished patches of a trial as places for a further layer: one piece for each of its boards that has any, without
 * those that were written off, that something lies on already, or that are smaller than what is to lie on them. Fails with
 * a sentence where there are none.
 *
 * @param others every other trial: some may have a layer there.
 *
 * @example layersOn({ plan, records: [] }, [], { patch: 40, gutterMm: 10, marginMm: 12 }).ok; // => false
 */
export function layersOn(
  { plan: made, records }: Trialled,
  others: readonly TrialPlan[],
  { patch }: Needs,
): Outcome<readonly RoomOn[]> {
  const plan = planNow(made, records);
  const { lines, airs } = progressOf(plan, records);
  const done = new Set(
    lines
      .filter(l => patchStatus(l, airs, Number.POSITIVE_INFINITY).phase === 'finished')
      .map(l => l.patch.code),
  );
  const { w, h } = sidesOf(patch);
  const size = sizeOf(plan);
  const isCovered = (board: number, x: number, y: number) =>
    others.some(o =>
      o.patches.some(p => {
        const home = homeOf(o, p.board);
        const own = sizeOf(o);
        return (
          o.id !== plan.id &&
          home.trial === plan.id &&
          home.board === board &&
          p.x < x + size.w &&
          x < p.x + own.w &&
          p.y < y + size.h &&
          y < p.y + own.h
        );
      }),
    );
  const found = Array.from({ length: plan.board.count }, (_, board): RoomOn => {
    const carrier = carrierOf(plan, board);
    const under = plan.patches
      .filter(p => p.board === board && done.has(p.code) && size.w >= w - 0.05 && size.h >= h - 0.05)
      .filter(p => !isCovered(board, p.x, p.y))
      .map(({ x, y, code }) => ({ x, y, ...size, code }));
    return {
      piece: {
        name: `${plan.code}, ${within(carrierName(plan, board))}, on top`.slice(0, 40),
        ...{ w: carrier.w, h: carrier.h, outline: carrier.outline ?? 'rectangle', under },
        ...(carrier.corners ? { corners: carrier.corners } : {}),
        of: homeOf(plan, board),
      },
      room: under.length,
    };
  }).filter(b => b.room > 0);
  return found.length
    ? good(found)
    : bad(
        'nothing-under',
        say`No finished patch of ${plan.code} is free and as large as ${sized(patch)}.`,
        'Finish it first, or make the new patches smaller.',
      );
}
