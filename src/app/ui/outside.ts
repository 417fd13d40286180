import { span, within } from '../../core/say/index.ts';
import { methodsOf, type TrialPlan } from '../../core/trial/index.ts';

/** How far outside its window a step was done: `3 min too late`. */
export const outsideWords = (byMin: number): string => `${span(byMin)} too ${byMin < 0 ? 'soon' : 'late'}`;

/** What a step of a plan's methods is called. */
export const stepName = (plan: TrialPlan, step: string): string => {
  const known = methodsOf(plan)
    .flatMap(m => m.steps)
    .find(s => s.id === step);
  return known ? within(known.action) : step;
};
