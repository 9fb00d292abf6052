import { Navigate } from 'react-router';
import type { Stage } from '../shell/stage.js';
import { parts } from './parts.js';

export const accessStage: Stage = {
  menu: { name: 'Access', to: '/access', key: 'g a' },
  routes: [
    {
      path: 'access',
      lazy: async () => ({ Component: (await import('./AccessStage.js')).AccessStage }),
      children: [
        ...parts.map(({ route }) => route),
        { path: 'people', element: <Navigate to="/access" replace /> },
        { path: 'people/:id', lazy: async () => ({ Component: (await import('./PersonPage.js')).PersonPage }) },
      ],
    },
  ],
  actions: [
    ...parts.map(({ name, to }) => ({ name, to })),
    { name: 'Export people', to: '/access', exports: 'people.csv', engineer: true },
    { name: 'Export guests', to: '/access/guests', exports: 'guests.csv', engineer: true },
    { name: 'Move people between groups', to: '/access?do=move', engineer: true },
    { name: 'Make entry links and codes', to: '/access/links?do=make', engineer: true },
    { name: 'Try an entry link on paper', to: '/access/links?do=test' },
    { name: 'Write a requirement set', to: '/access/requirements' },
  ],
  live: { results: ['access'], sighting: ['access'] },
};
