import type { RouteObject } from 'react-router';
import { OpeningView } from './opening/opening.tsx';
import { Broken } from './shell/broken.tsx';
import { Shell } from './shell/shell.tsx';
import { TrialFrame } from './trial/frame.tsx';

const Opening = () => <p style={{ padding: '2rem' }}>Opening…</p>;

/** The pages. Stages after laying out are loaded when they are first opened. */
export const routes: RouteObject[] = [
  {
    path: '/w/:workshop',
    element: <Shell />,
    errorElement: <Broken />,
    HydrateFallback: Opening,
    children: [
      { index: true, element: <OpeningView /> },
      {
        path: 'new',
        lazy: async () => ({ Component: (await import('./layout/start-page.tsx')).StartPage }),
      },
      {
        path: 'new/plan',
        lazy: async () => ({ Component: (await import('./layout/planner.tsx')).Planner }),
      },
      {
        path: 'shelf',
        lazy: async () => ({ Component: (await import('./shelf/shelf-page.tsx')).ShelfPage }),
      },
      {
        path: 'pictures',
        lazy: async () => ({ Component: (await import('./pictures/pictures-page.tsx')).PicturesPage }),
      },
      {
        path: 'methods',
        lazy: async () => ({ Component: (await import('./methods/methods-page.tsx')).MethodsPage }),
      },
      {
        path: 't/:trial',
        element: <TrialFrame />,
        children: [
          {
            path: 'plan',
            lazy: async () => ({ Component: (await import('./layout/plan-stage.tsx')).PlanStage }),
          },
          {
            path: 'print',
            lazy: async () => ({ Component: (await import('./print/print-stage.tsx')).PrintStage }),
          },
          {
            path: 'make',
            lazy: async () => ({ Component: (await import('./make/make-stage.tsx')).MakeStage }),
          },
          {
            path: 'read',
            lazy: async () => ({ Component: (await import('./read/read-stage.tsx')).ReadStage }),
          },
          {
            path: 'judge',
            lazy: async () => ({ Component: (await import('./judge/judge-stage.tsx')).JudgeStage }),
          },
          {
            path: 'explain',
            lazy: async () => ({ Component: (await import('./explain/explain-stage.tsx')).ExplainStage }),
          },
          {
            path: 'keep',
            lazy: async () => ({ Component: (await import('./keep/keep-stage.tsx')).KeepStage }),
          },
        ],
      },
      {
        path: 't/:trial/bench',
        lazy: async () => ({ Component: (await import('./bench/bench.tsx')).BenchView }),
      },
    ],
  },
  { path: '*', element: <Broken /> },
];
