import type { RouteObject } from 'react-router';
import { Broken } from './shell/broken.tsx';
import { Shell } from './shell/shell.tsx';
import { STAGES } from './stages/index.ts';

const Opening = () => <p style={{ padding: '2rem' }}>Opening…</p>;

/** The pages. Stages after laying out are loaded when they are first opened. */
export const routes: RouteObject[] = [
  {
    path: '/w/:workshop',
    element: <Shell />,
    errorElement: <Broken />,
    HydrateFallback: Opening,
    children: [
      {
        index: true,
        lazy: async () => ({ Component: (await import('./home/opening.tsx')).OpeningView }),
      },
      {
        path: 'new',
        lazy: async () => ({ Component: (await import('./new-trial/start-page.tsx')).StartPage }),
      },
      {
        path: 'new/plan',
        lazy: async () => ({ Component: (await import('./new-trial/planner.tsx')).Planner }),
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
        path: 'known',
        lazy: async () => ({ Component: (await import('./known/known-page.tsx')).KnownPage }),
      },
      {
        path: 'find',
        lazy: async () => ({ Component: (await import('./find/find-page.tsx')).FindPage }),
      },
      {
        path: 'train',
        lazy: async () => ({ Component: (await import('./train/train-page.tsx')).TrainPage }),
      },
      {
        path: 'recipes',
        lazy: async () => ({ Component: (await import('./recipes/recipes-page.tsx')).RecipesPage }),
      },
      {
        path: 'recipes/:recipe',
        lazy: async () => ({ Component: (await import('./recipes/recipe-page.tsx')).RecipePage }),
      },
      {
        path: 'safe',
        lazy: async () => ({ Component: (await import('./safe/safe-page.tsx')).SafePage }),
      },
      {
        path: 'phone',
        lazy: async () => ({ Component: (await import('./sink/phone-page.tsx')).PhonePage }),
      },
      {
        path: 'wall',
        lazy: async () => ({ Component: (await import('./wall/wall-page.tsx')).WallPage }),
      },
      {
        path: 'methods',
        lazy: async () => ({ Component: (await import('./methods/methods-page.tsx')).MethodsPage }),
      },
      {
        path: 't/:trial',
        lazy: async () => {
          const { TrialFrame } = await import('./trial/frame/frame.tsx');
          return { element: <TrialFrame stages={STAGES} /> };
        },
        children: STAGES.map(({ id, load }) => ({
          path: id,
          lazy: async () => {
            const { Page, marks } = await load();
            return { Component: Page, handle: { marks } };
          },
        })),
      },
      {
        path: 't/:trial/bench',
        lazy: async () => ({ Component: (await import('./bench/bench.tsx')).BenchView }),
      },
    ],
  },
  { path: '*', element: <Broken /> },
];
