import { useTrial } from '../trial/frame.tsx';
import { PlanSummary } from './plan-summary.tsx';

/** Stage "Lay out" of a saved trial: the plan in words and figures. It no longer changes once it is saved. */
export function PlanStage() {
  const { plan, records } = useTrial();
  return <PlanSummary plan={plan} records={records} start={Date.now()} />;
}
