import { bad, good, type Outcome } from '../outcome/index.ts';
import { mm, named, say } from '../say/index.ts';
import { carrierOf, type Patch, sizeOf, type TrialPlan } from '../trial/index.ts';
import { boardGrid, clearOf, insideBoard } from './grid.ts';

const tenth = (v: number) => Math.round(v * 10) / 10;

/**
 * Two patches change places. Fails when that would take one out of its strip.
 *
 * @example swapPatches(plan, patch.code, 'nobody').ok; // => false
 */
export function swapPatches(plan: TrialPlan, one: string, other: string): Outcome<TrialPlan> {
  const a = plan.patches.find(p => p.code === one);
  const b = plan.patches.find(p => p.code === other);
  if (!a || !b) return bad('no-patch', 'This patch is not in the plan.');
  if (a.strip !== b.strip)
    return bad(
      'strip',
      'These patches lie in different strips of the board, and a strip is prepared as one.',
      'Swap it with one of its own strip.',
    );
  const seat = (p: Patch, from: Patch): Patch => ({ ...p, board: from.board, x: from.x, y: from.y });
  return good({
    ...plan,
    patches: plan.patches.map(p => (p === a ? seat(a, b) : p === b ? seat(b, a) : p)),
  });
}

/**
 * A patch moved to another place (mm, top left) on a board. Fails with the reason when it does not fit there.
 *
 * @example movePatch(plan, patch.code, { board: 9, x: 12, y: 12 }).ok; // => false
 */
export function movePatch(
  plan: TrialPlan,
  code: string,
  to: { readonly board: number; readonly x: number; readonly y: number },
): Outcome<TrialPlan> {
  const patch = plan.patches.find(p => p.code === code);
  if (!patch) return bad('no-patch', 'This patch is not in the plan.');
  const x = tenth(to.x);
  const y = tenth(to.y);
  if (to.board < 0 || to.board >= plan.board.count) return bad('no-board', 'There is no such board.');
  const carrier = carrierOf(plan, to.board);
  const { places: layers } = boardGrid(carrier, sizeOf(plan), plan.gutterMm, plan.marginMm);
  if (carrier.under && !layers.some(p => Math.abs(p.x - x) < 0.5 && Math.abs(p.y - y) < 0.5))
    return bad(
      'layer',
      'A further layer lies on a patch that is there.',
      'Drop it on another patch to swap the two.',
    );
  if (!insideBoard(carrier, x, y, sizeOf(plan), plan.marginMm))
    return bad(
      'outside',
      say`There it would come closer than ${mm(plan.marginMm)} to the edge of the board.`,
    );
  const need = Math.min(plan.gutterMm, 8);
  if (!clearOf(carrier, x, y, sizeOf(plan), need))
    return bad('too-close', say`There it would come closer than ${mm(need)} to a patch of another trial.`);
  const { w, h } = sizeOf(plan);
  const close = plan.patches.find(
    p =>
      p !== patch &&
      p.board === to.board &&
      Math.abs(p.x - x) < w + need - 0.05 &&
      Math.abs(p.y - y) < h + need - 0.05,
  );
  if (close)
    return bad(
      'too-close',
      say`There it would come closer than ${mm(need)} to ${named(close.code, 'patch')}.`,
      'Drop it on the other patch to swap the two.',
    );
  if (patch.strip !== undefined && !inStrip(plan, patch, to.board, x))
    return bad('strip', 'That is another strip of the board, and a strip is prepared as one.');
  return good({
    ...plan,
    patches: plan.patches.map(p => (p === patch ? { ...p, board: to.board, x, y } : p)),
  });
}

function inStrip(plan: TrialPlan, patch: Patch, board: number, x: number): boolean {
  const own = plan.patches.filter(p => p.strip === patch.strip);
  const left = Math.min(...own.map(p => p.x)) - plan.gutterMm / 2;
  const right = Math.max(...own.map(p => p.x + plan.patchMm)) + plan.gutterMm / 2;
  return board === patch.board && x >= left && x + plan.patchMm <= right;
}
