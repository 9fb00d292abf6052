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
    to: '/settings',
    name: 'In force',
    route: { index: true, lazy: async () => ({ Component: (await import('./SettingsPage.js')).SettingsPage }) },
  },
  {
    to: '/settings/checks',
    name: 'What does not fit',
    route: { path: 'checks', lazy: async () => ({ Component: (await import('./ChecksPage.js')).ChecksPage }) },
  },
  {
    to: '/settings/drafts',
    name: 'Drafts',
    route: { path: 'drafts', lazy: async () => ({ Component: (await import('./DraftsPage.js')).DraftsPage }) },
  },
  {
    to: '/settings/redirection',
    name: 'Redirection',
    route: { path: 'redirection', lazy: async () => ({ Component: (await import('./redirection/RedirectionPage.js')).RedirectionPage }) },
  },
  {
    to: '/settings/carried',
    name: 'In and out',
    route: { path: 'carried', lazy: async () => ({ Component: (await import('./CarriedPage.js')).CarriedPage }) },
  },
  {
    to: '/settings/compare',
    name: 'Compare',
    route: { path: 'compare', lazy: async () => ({ Component: (await import('./ComparePage.js')).ComparePage }) },
  },
];
