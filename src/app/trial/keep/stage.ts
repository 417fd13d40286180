import type { Stage } from '../stage.ts';

/** Stage “Keep”. */
export const STAGE: Stage = {
  id: 'keep',
  place: 7,
  label: 'Keep',
  load: async () => {
    const [{ KeepStage }, { marks }] = await Promise.all([import('./keep-stage.tsx'), import('./marks.tsx')]);
    return { Page: KeepStage, marks };
  },
};
