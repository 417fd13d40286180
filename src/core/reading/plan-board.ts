import { cornerPieces } from '../print/index.ts';
import { carrierOf, type Patch, sizeOf, type TrialPlan } from '../trial/index.ts';
import type { Board } from './board.ts';
import type { Reference } from './reference.ts';

/**
 * A board of a trial with its corner pieces and its patches where the plan has them; `look` gives the reference of each.
 * A patch for which it gives none is left out.
 */
export function boardOf(
  plan: TrialPlan,
  board: number,
  look: (patch: Patch) => Reference | undefined,
): Board {
  const { w, h, taken = [] } = carrierOf(plan, board);
  const pieces = cornerPieces(w, h);
  return {
    size: { w, h },
    markers: pieces.map(p => p.marker),
    greys: pieces.flatMap(p => p.greys),
    taken: [
      ...taken,
      ...plan.patches.filter(p => p.board === board).map(({ x, y }) => ({ x, y, ...sizeOf(plan) })),
    ],
    patches: plan.patches
      .filter(p => p.board === board)
      .flatMap(patch => {
        const reference = look(patch);
        return reference ? [{ code: patch.code, x: patch.x, y: patch.y, ...sizeOf(plan), reference }] : [];
      }),
  };
}
