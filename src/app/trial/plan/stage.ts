import type { Stage } from '../stage.ts';

/** Stage “Lay out”. */
export const STAGE: Stage = {
  id: 'plan',
  place: 1,
  label: 'Lay out',
  load: async () => {
    const [{ PlanStage }, { marks }] = await Promise.all([import('./plan-stage.tsx'), import('./marks.tsx')]);
    return { Page: PlanStage, marks };
  },
  arranges: true,
};
