import { carrierOf, type Patch, type TrialPlan } from '../../core/trial/index.ts';

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

/** Boards side by side, row by row, so that the drawing is about as wide as a screen half. */
export function layoutOf(plan: Pick<TrialPlan, 'board' | 'pieces'>): BoardLayout {
  const { count } = plan.board;
  const all = Array.from({ length: count }, (_, b) => carrierOf(plan, b));
  const [w, h] = [Math.max(...all.map(c => c.w)), Math.max(...all.map(c => c.h))];
  const across = Math.max(1, Math.min(count, Math.round(Math.sqrt((count * (h + GAP) * 1.2) / (w + GAP)))));
  const corners: { x: number; y: number }[] = [];
  let [y, width] = [0, 0];
  for (let first = 0; first < count; first += across) {
    const row = all.slice(first, first + across);
    let x = 0;
    for (const carrier of row) {
      corners.push({ x, y });
      x += carrier.w + GAP;
    }
    width = Math.max(width, x - GAP);
    y += Math.max(...row.map(c => c.h)) + GAP;
  }
  const at = (board: number) => corners[board];
  return {
    width,
    height: y - GAP + FRAME,
    at,
    of: patch => ({ x: at(patch.board).x + patch.x, y: at(patch.board).y + patch.y }),
    boardAt: (x, y) =>
      all.flatMap((c, b) => {
        const o = at(b);
        return x >= o.x && x <= o.x + c.w && y >= o.y && y <= o.y + c.h ? [b] : [];
      })[0],
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
