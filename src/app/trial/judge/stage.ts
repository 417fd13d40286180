import type { Stage } from '../stage.ts';

/** Stage “Judge”. */
export const STAGE: Stage = {
  id: 'judge',
  place: 5,
  label: 'Judge',
  load: async () => {
    const [{ JudgeStage }, { marks }] = await Promise.all([
      import('./judge-stage.tsx'),
      import('./marks.tsx'),
    ]);
    return { Page: JudgeStage, marks };
  },
};
