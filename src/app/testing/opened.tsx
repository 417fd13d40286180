import { ChakraProvider } from '@chakra-ui/react';
import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { configure, render } from '@testing-library/react';
import { createMemoryRouter, RouterProvider } from 'react-router';
import { routes } from '../routes.tsx';
import { system } from '../theme/index.ts';
import { SettingsProvider } from '../workshop/settings-provider.tsx';

// A page is fetched when it is first opened: the machine may be slow, and nothing is timed here.
// Whether something is hidden by a style is for a browser to tell.
configure({ asyncUtilTimeout: 20_000, defaultHidden: true });

/** Opens the application at an address, as a browser would, on whatever the store holds. */
export function opened(path: string) {
  const router = createMemoryRouter(routes, { initialEntries: [path] });
  const client = new QueryClient({ defaultOptions: { queries: { retry: false } } });
  return {
    router,
    ...render(
      <ChakraProvider value={system}>
        <QueryClientProvider client={client}>
          <SettingsProvider>
            <RouterProvider router={router} />
          </SettingsProvider>
        </QueryClientProvider>
      </ChakraProvider>,
    ),
  };
}
