import { patchCode } from '../codes/index.ts';
import type { TrialPlan } from '../trial/index.ts';
import type { PlanRequest } from './request.ts';

/**
 * What was asked for when a plan was made, so that it can be planned again or edited: as it is now, further levels among
 * it, without its further batches.
 *
 * @example requestOf(plan).factors.length; // => 2
 */
export function requestOf(plan: TrialPlan): PlanRequest {
  const { name, question, intent, method, seed, patchMm, gutterMm, marginMm, factors, usual, air } = plan;
  const { kind, interactions, stripKey, groupKey, loadSize, control } = plan.design;
  const { w, h, outline, corners, onePiece } = plan.board;
  return {
    ...{ name, question, intent, method, seed, patchMm, gutterMm, marginMm, factors, usual, air },
    ...(plan.patchTallMm === undefined ? {} : { patchTallMm: plan.patchTallMm }),
    ...(plan.picture === undefined ? {} : { picture: plan.picture }),
    ...(plan.pictures ? { pictures: plan.pictures } : {}),
    ...(plan.compared ? { compared: plan.compared } : {}),
    board: { w, h, outline, onePiece, ...(corners ? { corners } : {}) },
    ...(plan.pieces ? { pieces: plan.pieces } : {}),
    repeats: plan.repeats,
    design: kind,
    budget: Math.max(2, plan.patches.filter(p => p.levels.length && !p.batch).length),
    ...{ interactions, stripKey, groupKey, loadSize, control },
    overrides: plan.overrides,
    wear: plan.wear,
    noise: plan.noise,
  };
}

/**
 * A plan that takes the place of another of which nothing is made yet: it keeps that one's name on pencil marks and in
 * links.
 *
 * @example inPlaceOf(plan, plan).code === plan.code; // => true
 */
export const inPlaceOf = (plan: TrialPlan, old: TrialPlan): TrialPlan => ({
  ...plan,
  id: old.id,
  code: old.code,
  createdAt: old.createdAt,
  ...(old.tags ? { tags: old.tags } : {}),
  patches: plan.patches.map(p => ({ ...p, code: patchCode(old.code, p.order) })),
});
