import type { Cause, Gate } from './causes.ts';
import type { Signals } from './signals.ts';

/** Whether signals lie where some gates have them; one that is not known holds no gate. */
export const holdAll = (gates: readonly Gate[], signals: Signals): boolean =>
  gates.every(({ signal, above = Number.NEGATIVE_INFINITY, below = Number.POSITIVE_INFINITY }) => {
    const value = signals[signal];
    return value !== undefined && value > above && value < below;
  });

/**
 * Whether a cause can be at work at all with this method, ground and what was done.
 *
 * @example inQuestion({ only: [{ signal: 'pulled', above: 0 }] }, { pulled: 0 }); // => false
 */
export const inQuestion = ({ only = [] }: Cause, signals: Signals): boolean => holdAll(only, signals);
