import type { Step } from '../methods/index.ts';
import type { PatchSettings, TrialPlan } from '../trial/index.ts';

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

/** What has to be known of a patch to say what a step takes of it. */
interface Handled {
  readonly settings: PatchSettings;
  /** Codes of the patches whose ground is prepared in the same go, its own among them. */
  readonly preparedWith: readonly string[];
}

/**
 * Minutes of hands that a step takes of one patch: a preparation and a coat of a finish what the shelf says of them, of what is done in one go its share.
 *
 * @example handsOnMin({ handsOnMin: 4 }, { settings, preparedWith: [] }); // => 4
 */
export function handsOnMin(step: Step, { settings, preparedWith }: Handled): number {
  if (step.onlyIfFinished) return settings.finish?.minutes || step.handsOnMin;
  if (!step.onlyIfPrepared) return step.handsOnMin;
  const count = preparedWith.length;
  return ((settings.preparation.minutes || step.handsOnMin) * (1 + FURTHER * (count - 1))) / count;
}
