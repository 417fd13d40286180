import type { Patch, TrialPlan } from '../../core/trial/index.ts';

const GAP = 16;
const FRAME = 9;

/** Where boards and patches stand in the drawing, in mm. */
export interface BoardLayout {
  readonly width: number;
  readonly height: number;
  at(board: number): { readonly x: number; readonly y: number };
  of(patch: Patch): { readonly x: number; readonly y: number };
  /** The board under a point, if any. */
  boardAt(x: number, y: number): number | undefined;
}

/** Boards side by side so that the drawing is about as wide as a screen half. */
export function layoutOf(plan: Pick<TrialPlan, 'board'>): BoardLayout {
  const { w, h, count } = plan.board;
  const across = Math.max(1, Math.min(count, Math.round(Math.sqrt((count * (h + GAP) * 1.2) / (w + GAP)))));
  const down = Math.ceil(count / across);
  const at = (board: number) => ({
    x: (board % across) * (w + GAP),
    y: Math.floor(board / across) * (h + GAP),
  });
  return {
    width: across * w + (across - 1) * GAP,
    height: down * (h + GAP) - GAP + FRAME,
    at,
    of: patch => ({ x: at(patch.board).x + patch.x, y: at(patch.board).y + patch.y }),
    boardAt: (x, y) =>
      Array.from({ length: count }, (_, b) => b).find(b => {
        const o = at(b);
        return x >= o.x && x <= o.x + w && y >= o.y && y <= o.y + h;
      }),
  };
}

/** The patch next to `from` in a direction. */
export function nearest(
  patches: readonly Patch[],
  from: Patch,
  dx: number,
  dy: number,
  place: (p: Patch) => { x: number; y: number },
): Patch | undefined {
  const a = place(from);
  const scored = patches.flatMap(to => {
    const b = place(to);
    const along = (b.x - a.x) * dx + (b.y - a.y) * dy;
    const off = Math.abs((b.x - a.x) * dy) + Math.abs((b.y - a.y) * dx);
    return to === from || along <= 0.5 ? [] : [{ to, score: along + 3 * off }];
  });
  return scored.sort((p, q) => p.score - q.score)[0]?.to;
}
