import { deedOf, type Step } from '../methods/index.ts';
import type { PatchSettings, TrialPlan } from '../trial/index.ts';
import { WEAR } from './wear.ts';

/** Each further place of a board adds this share of the work of the first: the brush and the pot are out already. */
const FURTHER = 0.25;

/**
 * Which patches have their ground prepared in one go, by code: all of a board where the preparation is the same for
 * all, all of a strip where it is given to strips. A preparation that is varied from place to place is done place by
 * place, so that two places of one kind do not share a mishap; so is a piece that stands alone.
 *
 * @example preparedTogether(plan).size; // => 12
 */
export function preparedTogether(plan: TrialPlan): ReadonlyMap<string, readonly string[]> {
  const byStrip = plan.design.stripKey === 'preparation';
  const varied = plan.factors.some(f => f.key === 'preparation' || f.key === 'substrate');
  const goes = new Map<string, string[]>();
  const keyed = plan.patches.map(patch => {
    const alone = plan.board.onePiece || (byStrip ? patch.strip === undefined : varied);
    const key = alone ? patch.code : byStrip ? `${patch.board} ${patch.strip}` : `${patch.board}`;
    goes.set(key, [...(goes.get(key) ?? []), patch.code]);
    return [patch.code, key] as const;
  });
  return new Map(keyed.map(([code, key]) => [code, goes.get(key) ?? []]));
}

/**
 * Which patches lie on one piece, by code: what happens to the piece happens to all of them. A piece that carries one
 * patch is that patch alone.
 *
 * @example onOnePiece(plan).get(patch.code).includes(patch.code); // => true
 */
export function onOnePiece(plan: TrialPlan): ReadonlyMap<string, readonly string[]> {
  const codes = (board: number) => plan.patches.filter(p => p.board === board).map(p => p.code);
  const boards = new Map(plan.patches.map(p => [p.board, codes(p.board)]));
  return new Map(
    plan.patches.map(p => [p.code, plan.board.onePiece ? [p.code] : (boards.get(p.board) ?? [p.code])]),
  );
}

/** What has to be known of a patch to say with which others a step is done. */
export interface Joined {
  /** Codes of the patches whose ground is prepared in the same go, its own among them. */
  readonly preparedWith: readonly string[];
  /** Codes of the patches on the same piece, its own among them. */
  readonly pieceWith?: readonly string[];
  /** Patches of a piece are finished one by one: what they are finished with is compared. */
  readonly finishVaries?: boolean;
}

/**
 * How a step is done to a piece as a whole, when the last patch on it is ready: once, or over the area of each patch;
 * nothing where it is done patch by patch.
 *
 * @example wholeOf({ ...methods[1].steps.find(s => s.does === 'hang') }, { preparedWith: [] }); // => 'once'
 */
export function wholeOf(step: Step, { finishVaries }: Pick<Joined, 'finishVaries' | 'preparedWith'>) {
  if (step.wears) return WEAR[step.wears].whole ? 'once' : undefined;
  if (step.onlyIfFinished && finishVaries) return undefined;
  return deedOf(step.does).whole;
}

/**
 * Codes of the patches a step is done for in one go, the patch's own among them; none where each has its own.
 *
 * @example goFor(methods[0].steps[2], { preparedWith: ['a', 'b'], pieceWith: ['a', 'b'] }); // => []
 */
export function goFor(step: Step, joined: Joined): readonly string[] {
  if (step.onlyIfPrepared) return joined.preparedWith;
  return wholeOf(step, joined) ? (joined.pieceWith ?? []) : [];
}

/** What has to be known of a patch to say what a step takes of it. */
interface Handled extends Joined {
  readonly settings: PatchSettings;
}

/**
 * Minutes of hands that a step takes of one patch: a preparation and a coat of a finish what the shelf says of them, of what is done in one go its share.
 *
 * @example handsOnMin({ ...methods[0].steps[0], handsOnMin: 4 }, { settings, preparedWith: [] }); // => 4
 */
export function handsOnMin(step: Step, handled: Handled): number {
  const { settings } = handled;
  const minutes = step.onlyIfFinished
    ? settings.finish?.minutes || step.handsOnMin
    : step.onlyIfPrepared
      ? settings.preparation.minutes || step.handsOnMin
      : step.handsOnMin;
  const count = Math.max(1, goFor(step, handled).length);
  const isOnce = !step.onlyIfPrepared && wholeOf(step, handled) === 'once';
  return isOnce ? minutes / count : (minutes * (1 + FURTHER * (count - 1))) / count;
}
