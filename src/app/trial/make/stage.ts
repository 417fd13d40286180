import type { Stage } from '../stage.ts';

/** Stage “Make”. */
export const STAGE: Stage = {
  id: 'make',
  place: 3,
  label: 'Make',
  load: async () => {
    const [{ MakeStage }, { marks }] = await Promise.all([import('./make-stage.tsx'), import('./marks.tsx')]);
    return { Page: MakeStage, marks };
  },
};
