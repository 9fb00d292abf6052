import { createBrowserRouter, Navigate } from 'react-router';
import { Shell } from './shell/Shell.js';
import { PageError } from './shell/PageError.js';

/** Every screen has an address; each is its own piece of script, fetched when it is first opened. */
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
      { path: 'board', lazy: async () => ({ Component: (await import('./board/BoardPage.js')).BoardPage }) },
      { path: 'crossings', lazy: async () => ({ Component: (await import('./crossings/CrossingsPage.js')).CrossingsPage }) },
      { path: 'crossings/:id', lazy: async () => ({ Component: (await import('./crossings/CrossingPage.js')).CrossingPage }) },
      {
        path: 'access',
        lazy: async () => ({ Component: (await import('./access/AccessStage.js')).AccessStage }),
        children: [
          { index: true, lazy: async () => ({ Component: (await import('./access/PeoplePage.js')).PeoplePage }) },
          { path: 'people', element: <Navigate to="/access" replace /> },
          { path: 'people/:id', lazy: async () => ({ Component: (await import('./access/PersonPage.js')).PersonPage }) },
          { path: 'publications', lazy: async () => ({ Component: (await import('./access/PublicationsPage.js')).PublicationsPage }) },
          { path: 'links', lazy: async () => ({ Component: (await import('./access/LinksPage.js')).LinksPage }) },
          { path: 'guests', lazy: async () => ({ Component: (await import('./access/GuestsPage.js')).GuestsPage }) },
          { path: 'acceptance', lazy: async () => ({ Component: (await import('./access/AcceptancePage.js')).AcceptancePage }) },
          { path: 'requirements', lazy: async () => ({ Component: (await import('./access/RequirementsPage.js')).RequirementsPage }) },
          { path: 'sign-on', lazy: async () => ({ Component: (await import('./access/SignonPage.js')).SignonPage }) },
        ],
      },
      { path: 'estate', lazy: async () => ({ Component: (await import('./estate/EstatePage.js')).EstatePage }) },
      { path: 'estate/import', lazy: async () => ({ Component: (await import('./estate/ImportPage.js')).ImportPage }) },
      { path: 'estate/changes', lazy: async () => ({ Component: (await import('./estate/ChangesPage.js')).ChangesPage }) },
      { path: 'estate/measurements', lazy: async () => ({ Component: (await import('./estate/MeasurementPage.js')).MeasurementPage }) },
      { path: 'account', lazy: async () => ({ Component: (await import('./session/AccountPage.js')).AccountPage }) },
      { path: 'sign-ins/log', lazy: async () => ({ Component: (await import('./session/SecurityLogPage.js')).SecurityLogPage }) },
      { path: 'sign-ins', lazy: async () => ({ Component: (await import('./session/SignInsPage.js')).SignInsPage }) },
      { path: 'estate/:kind', lazy: async () => ({ Component: (await import('./estate/EstatePage.js')).EstatePage }) },
      { path: 'estate/:kind/:id', lazy: async () => ({ Component: (await import('./estate/ObjectPage.js')).ObjectPage }) },
      { path: '*', lazy: async () => ({ Component: (await import('./shell/NotFound.js')).NotFound }) },
    ],
  },
]);
