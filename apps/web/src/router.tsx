import { createBrowserRouter, Navigate } from 'react-router';
import { PageError } from './shell/PageError.js';
import { Shell } from './shell/Shell.js';
import { stages } from './shell/stages.js';

/** Every screen has an address. The field check is a page for whoever has its link, without the frame. */
export const router = createBrowserRouter([
  {
    path: '/check/:token',
    lazy: async () => ({ Component: (await import('./check/CheckPage.js')).CheckPage }),
    errorElement: <PageError />,
    hydrateFallbackElement: <></>,
  },
  {
    path: '/',
    element: <Shell />,
    errorElement: <PageError />,
    hydrateFallbackElement: <></>,
    children: [
      { index: true, element: <Navigate to="/board" replace /> },
      ...stages.flatMap(({ routes }) => routes),
      { path: '*', lazy: async () => ({ Component: (await import('./shell/NotFound.js')).NotFound }) },
    ],
  },
]);
