import type { TrialPlan } from '../../core/trial/index.ts';
import { span } from '../../core/units/index.ts';

/** How far outside its window a step was done: `3 min too late`. */
export const outsideWords = (byMin: number): string => `${span(byMin)} too ${byMin < 0 ? 'soon' : 'late'}`;

/** What a step of a plan's method is called. */
export const stepName = (plan: TrialPlan, step: string): string =>
  plan.used.method.steps.find(s => s.id === step)?.action.toLowerCase() ?? step;
