import { levelMarksOn } from '../../board/level-marks.tsx';
import type { Stage } from '../stage.ts';

/** Stage “Lay out”. */
export const STAGE: Stage = {
  id: 'plan',
  place: 1,
  label: 'Lay out',
  load: async () => (await import('./plan-stage.tsx')).PlanStage,
  marks: ({ plan }) => levelMarksOn(plan),
  arranges: true,
};
