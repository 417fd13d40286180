import { standing, type TrialRecord } from '../trial/index.ts';

/**
 * Whether work on a trial has begun: something was done to a patch and was not taken back. From then on its patches
 * keep their places and its settings are history.
 *
 * @example hasBegun(records); // => true
 */
export const hasBegun = (records: readonly TrialRecord[]): boolean =>
  standing(records).some(r => r.kind === 'step');
