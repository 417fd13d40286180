import { type CautionId, deedOf, type Step } from '../methods/index.ts';
import { isOne, MEDIUMS, TOOLS } from '../shelf/index.ts';
import { methodsOf, type PatchSettings, settingsOf, type TrialPlan } from '../trial/index.ts';
import { stepsFor } from './chain.ts';

const AT_PREPARATION: Partial<Record<PatchSettings['preparation']['kind'], readonly CautionId[]>> = {
  sand: ['sanding'],
  degrease: ['solvent'],
  etch: ['etching'],
  'wax coats': ['wax', 'hot-tools'],
  'wash and iron': ['hot-tools'],
};

/**
 * What can hurt at this step with these materials: the step's own cautions and those of what is used at it.
 *
 * @example cautionsAt(methods[0].steps[2], { ...settings, medium: { ...settings.medium, flammable: true } }); // => ['wet-coats', 'solvent']
 */
export function cautionsAt(step: Step, settings: PatchSettings): CautionId[] {
  const more: CautionId[] = [];
  if (step.onlyIfPrepared) more.push(...(AT_PREPARATION[settings.preparation.kind] ?? []));
  const { takes, presses } = deedOf(step.does);
  if (takes === 'medium') {
    if (settings.medium.flammable) more.push('solvent');
    if (isOne(MEDIUMS.twoPart, settings.medium.kind)) more.push('two-part');
    if (isOne(MEDIUMS.waxes, settings.medium.kind)) more.push('wax');
  }
  if ((step.onlyIfFinished || takes === 'finish') && settings.finish) {
    if (settings.finish.flammable) more.push('solvent');
    if (settings.finish.twoPart) more.push('two-part');
  }
  if (presses && isOne(TOOLS.hot, settings.pressing?.kind)) more.push('hot-tools');
  return [...new Set([...step.cautions, ...more])];
}

/** What needs something at hand, or somebody asked, before anybody begins. */
const GRAVE: readonly CautionId[] = ['etching', 'two-part', 'solvent', 'oven', 'hot-tools', 'wax', 'sanding'];

/**
 * What to know before anything is begun: the method's own set-up cautions, and those of all that its patches are
 * prepared, coated, pressed and finished with that need more than care at the moment.
 *
 * @example setUpCautions(plan).includes('wet-coats'); // => true
 */
export function setUpCautions(plan: TrialPlan): CautionId[] {
  const met = new Set(
    plan.patches.flatMap(patch => {
      const settings = settingsOf(plan, patch);
      return stepsFor(plan, settings).flatMap(step => cautionsAt(step, settings));
    }),
  );
  const own = methodsOf(plan).flatMap(m => m.setUpCautions);
  return [...new Set([...GRAVE.filter(id => met.has(id)), ...own])];
}
