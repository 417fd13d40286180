import type { Stage } from '../stage.ts';

/** Stage “Explain”. */
export const STAGE: Stage = {
  id: 'explain',
  place: 6,
  label: 'Explain',
  load: async () => {
    const [{ ExplainStage }, { marks }] = await Promise.all([
      import('./explain-stage.tsx'),
      import('./marks.tsx'),
    ]);
    return { Page: ExplainStage, marks };
  },
};
