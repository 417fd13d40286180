import '@fontsource-variable/atkinson-hyperlegible-next/wght.css';
import '@fontsource-variable/bricolage-grotesque/wght.css';
import { ChakraProvider } from '@chakra-ui/react';
import { QueryClientProvider } from '@tanstack/react-query';
import { StrictMode } from 'react';
import { createRoot } from 'react-dom/client';
import { createBrowserRouter, RouterProvider } from 'react-router';
import { followOtherTabs, queryClient, readAheadWorkshop } from '../store/index.ts';
import { routes } from './routes.tsx';
import { STAGES } from './stages/index.ts';
import { system } from './theme/index.ts';
import { SettingsProvider } from './workshop/settings-provider.tsx';

followOtherTabs(queryClient);

// The storage answers while the first view is being drawn. Whatever goes wrong is said by the view that asks again.
const opening = window.location.pathname.match(/^\/w\/(mine|demo)\/?$/)?.[1];
if (opening === 'mine' || opening === 'demo') void readAheadWorkshop(opening, queryClient);

// The stages are fetched while nothing else is going on, so that the first trial opens as quickly as the next.
const idle = window.requestIdleCallback ?? ((work: () => void) => setTimeout(work, 1000));
setTimeout(() => idle(() => STAGES.forEach(stage => void stage.load().catch(() => undefined))), 2000);

createRoot(document.getElementById('root')!).render(
  <StrictMode>
    <ChakraProvider value={system}>
      <QueryClientProvider client={queryClient}>
        <SettingsProvider>
          <RouterProvider router={createBrowserRouter(routes)} />
        </SettingsProvider>
      </QueryClientProvider>
    </ChakraProvider>
  </StrictMode>,
);
