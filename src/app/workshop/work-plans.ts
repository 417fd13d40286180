import { KeptPlans } from '../../core/schedule/index.ts';

/** The one plan of the work: the opening view, Lay out, Print and Make all ask here. */
export const workPlans = new KeptPlans();
