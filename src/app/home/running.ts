import type { Action } from '../../core/schedule/index.ts';
import type { TrialPlan, TrialRecord } from '../../core/trial/index.ts';

/** A trial with its records and what it needs next. */
export interface Running {
  readonly plan: TrialPlan;
  readonly records: readonly TrialRecord[];
  readonly action: Action;
}
