import type { Stage } from '../stage.ts';

/** Stage “Read”. */
export const STAGE: Stage = {
  id: 'read',
  place: 4,
  label: 'Read',
  load: async () => {
    const [{ ReadStage }, { marks }] = await Promise.all([import('./read-stage.tsx'), import('./marks.tsx')]);
    return { Page: ReadStage, marks };
  },
};
