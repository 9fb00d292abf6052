import type { QueryClient } from '@tanstack/react-query';
import { createBrowserRouter, Navigate } from 'react-router';
import { sessionQuery } from './api/session.js';
import { PageError } from './shell/PageError.js';
import { Shell } from './shell/Shell.js';
import { stages } from './shell/stages.js';

/** Every screen has an address. The field check is a page for whoever has its link, without the frame. */
export const routerOf = (client: QueryClient) =>
  createBrowserRouter([
    {
      path: '/check/:token',
      lazy: async () => ({ Component: (await import('./check/CheckPage.js')).CheckPage }),
      errorElement: <PageError />,
      hydrateFallbackElement: <></>,
    },
    {
      path: '/',
      element: <Shell />,
      // asked while the page that is wanted is fetched, not after it; whoever has a link to a field check is not asked
      loader: () => {
        void client.prefetchQuery(sessionQuery);
        return null;
      },
      shouldRevalidate: () => false,
      errorElement: <PageError />,
      hydrateFallbackElement: <></>,
      children: [
        { index: true, element: <Navigate to="/board" replace /> },
        ...stages.flatMap(({ routes }) => routes),
        { path: '*', lazy: async () => ({ Component: (await import('./shell/NotFound.js')).NotFound }) },
      ],
    },
  ]);
