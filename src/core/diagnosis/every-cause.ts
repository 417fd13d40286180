import { type Cause, COMMON_CAUSES } from './causes.ts';
import { METHOD_CAUSES } from './causes-by-method.ts';

/** Every cause that is known; which of them come into question depends on the method (see {@link Cause.only}). */
export const CAUSES: readonly Cause[] = [...COMMON_CAUSES, ...METHOD_CAUSES];
