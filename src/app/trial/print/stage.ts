import type { Stage } from '../stage.ts';

/** Stage “Print”. */
export const STAGE: Stage = {
  id: 'print',
  place: 2,
  label: 'Print',
  load: async () => {
    const [{ PrintStage }, { marks }] = await Promise.all([
      import('./print-stage.tsx'),
      import('./marks.tsx'),
    ]);
    return { Page: PrintStage, marks };
  },
};
