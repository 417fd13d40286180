import { type CautionId, deedOf, type Step } from '../methods/index.ts';
import { isOne, MEDIUMS, TOOLS } from '../shelf/index.ts';
import type { PatchSettings } from '../trial/index.ts';

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
