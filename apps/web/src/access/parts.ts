import type { RouteObject } from 'react-router';

interface Part {
  to: string;
  name: string;
  /** Its screen; the part that the stage opens with has the address of the stage. */
  route: RouteObject;
}

/** The parts of the stage, in the order of its menu. */
export const parts: readonly Part[] = [
  {
    to: '/access',
    name: 'Who sees what',
    route: { index: true, lazy: async () => ({ Component: (await import('./PeoplePage.js')).PeoplePage }) },
  },
  {
    to: '/access/publications',
    name: 'Publications',
    route: { path: 'publications', lazy: async () => ({ Component: (await import('./PublicationsPage.js')).PublicationsPage }) },
  },
  {
    to: '/access/links',
    name: 'Links and codes',
    route: { path: 'links', lazy: async () => ({ Component: (await import('./LinksPage.js')).LinksPage }) },
  },
  {
    to: '/access/guests',
    name: 'Guests',
    route: { path: 'guests', lazy: async () => ({ Component: (await import('./GuestsPage.js')).GuestsPage }) },
  },
  {
    to: '/access/acceptance',
    name: 'Acceptance',
    route: { path: 'acceptance', lazy: async () => ({ Component: (await import('./AcceptancePage.js')).AcceptancePage }) },
  },
  {
    to: '/access/requirements',
    name: 'Requirement sets',
    route: { path: 'requirements', lazy: async () => ({ Component: (await import('./RequirementsPage.js')).RequirementsPage }) },
  },
  {
    to: '/access/sign-on',
    name: 'Sign-on time',
    route: { path: 'sign-on', lazy: async () => ({ Component: (await import('../signon/SignonPage.js')).SignonPage }) },
  },
];
