import { wetUntil, wornBy, wornOtherwise } from '../../../core/photos/index.ts';
import type { Trialled } from '../../../core/progress/index.ts';
import { within } from '../../../core/say/index.ts';
import { WEAR } from '../../../core/steps/index.ts';
import type { WearTest } from '../../../core/trial/index.ts';
import type { Taken } from './job.ts';

/** How a photo was taken after a look at the records, and what of it they contradict. */
export interface ByRecords {
  readonly taken: Taken;
  /** Said to be dry, but it was still wet when it was taken. */
  readonly isWet?: 'by time';
  /** Worn otherwise than was said. */
  readonly wornBy?: WearTest | 'none';
}

/**
 * A photo of a patch taken at `at` (ms) against its records. What nobody chose is what the records say; what was chosen
 * stands, with what they say against it. Only dry photos are asked about.
 *
 * @example byRecords({ stage: 'wet', roundOf: () => 1 }, { plan, records }, patch.code, 0).wornBy; // => undefined
 */
export function byRecords(taken: Taken, trialled: Trialled, code: string, at: number): ByRecords {
  if (taken.stage !== 'dry') return { taken };
  const isWet = wetUntil(trialled, code, at) !== undefined ? { isWet: 'by time' as const } : {};
  if (!taken.isProposed) {
    const other = wornOtherwise(trialled, code, at, taken.worn);
    return { taken, ...isWet, ...(other ? { wornBy: other } : {}) };
  }
  return { taken: wornAs(taken, wornBy(trialled, code, at)), ...isWet };
}

/** The same, worn by that test; or as it was made. */
export function wornAs({ worn: _, isProposed: __, ...taken }: Taken, test: WearTest | undefined): Taken {
  return test ? { ...taken, worn: test } : taken;
}

/** How a patch was when it was photographed, in words. */
export const wornWords = (test: WearTest | undefined): string =>
  test ? `worn by “${within(WEAR[test].name)}”` : 'as it was made';
