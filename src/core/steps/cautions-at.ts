import type { CautionId, Step } from '../methods/index.ts';
import type { PatchSettings } from '../trial/index.ts';

const AT_PREPARATION: Partial<Record<PatchSettings['preparation']['kind'], readonly CautionId[]>> = {
  sand: ['sanding'],
  degrease: ['solvent'],
  etch: ['etching'],
  'wax coats': ['wax', 'hot-tools'],
  'wash and iron': ['hot-tools'],
};

/** What can hurt at this step with these materials: the step's own cautions and those of what is used at it. */
export function cautionsAt(step: Step, settings: PatchSettings): CautionId[] {
  const more: CautionId[] = [];
  if (step.onlyIfPrepared) more.push(...(AT_PREPARATION[settings.preparation.kind] ?? []));
  if (step.id.startsWith('coat')) {
    if (settings.medium.flammable) more.push('solvent');
    if (settings.medium.kind === 'two-part clear') more.push('two-part');
    if (settings.medium.kind === 'wax') more.push('wax');
  }
  if (step.onlyIfFinished && settings.finish) {
    if (settings.finish.flammable) more.push('solvent');
    if (settings.finish.twoPart) more.push('two-part');
  }
  if (step.id === 'place' && ['iron', 'heat gun', 'torch', 'oven'].includes(settings.pressing?.kind ?? ''))
    more.push('hot-tools');
  return [...new Set([...step.cautions, ...more])];
}
