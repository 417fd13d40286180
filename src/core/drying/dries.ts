import type { Step } from '../methods/index.ts';
import { isOne, MEDIUMS } from '../shelf/index.ts';
import type { PatchSettings } from '../trial/index.ts';

/** Whether the wait after a step is the medium's drying: planned, and with no sign of its own to wait for. */
export const driesMedium = (step: Step, { medium }: PatchSettings): boolean =>
  step.wait.kind === 'planned' && !step.ready && !isOne(MEDIUMS.nothing, medium.kind);
