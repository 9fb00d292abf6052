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
  live: { results: ['access'], sighting: ['access'] },
};
