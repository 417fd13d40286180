import type { Outline, Patch, Piece, TrialPlan } from './schema.ts';

/** A board, a tile or a piece of its own as far as patches lie on it; all in mm. */
export interface Carrier {
  readonly w: number;
  readonly h: number;
  readonly outline?: Outline;
  readonly corners?: Piece['corners'];
  /** A piece of its own has a name. */
  readonly name?: string;
  readonly taken?: Piece['taken'];
  readonly of?: Piece['of'];
  readonly under?: Piece['under'];
}

type Carries = Pick<TrialPlan, 'board' | 'pieces'>;

/**
 * What a board of a plan is: one of its pieces, which come first, or the board that all others are.
 *
 * @example carrierOf(plan, 0).w === plan.board.w; // => true
 */
export const carrierOf = ({ board, pieces }: Carries, at: number): Carrier => pieces?.[at] ?? board;

/**
 * How a board is called.
 *
 * @example carrierName({ board: { ...plan.board, count: 2 } }, 1); // => 'Board 2'
 */
export const carrierName = (plan: Carries, at: number): string =>
  carrierOf(plan, at).name ?? `${plan.board.onePiece ? 'Piece' : 'Board'} ${at + 1}`;

/**
 * The boards of a plan that are all of one size: those that are no pieces of their own.
 *
 * @example likeBoards(plan) === plan.board.count; // => true
 */
export const likeBoards = ({ board, pieces }: Carries): number =>
  Math.max(0, board.count - (pieces?.length ?? 0));

/**
 * Corners of an outline in mm, in turn; nothing for one that is not given by its corners.
 *
 * @example cornersOf(plan.board); // => undefined
 */
export const cornersOf = ({ w, h, outline, corners }: Carrier) =>
  outline === 'corners' && corners ? corners.map(c => ({ x: c.x * w, y: c.y * h })) : undefined;

/**
 * The finished patch of another trial that a patch lies on, by its code; nothing where it lies on bare ground.
 *
 * @example underOf(plan, plan.patches[0]); // => undefined
 */
export const underOf = (
  plan: Carries,
  { board, x, y }: Pick<Patch, 'board' | 'x' | 'y'>,
): string | undefined =>
  carrierOf(plan, board).under?.find(u => x >= u.x - 0.5 && x < u.x + u.w && y >= u.y - 0.5 && y < u.y + u.h)
    ?.code;
