import type { Stage } from '../shell/stage.js';

export const bringupStage: Stage = {
  menu: { name: 'Bring-up', to: '/bringup', key: 'g u' },
  routes: [
    { path: 'bringup', lazy: async () => ({ Component: (await import('./BringupPage.js')).BringupPage }) },
    { path: 'bringup/:place/transfer', lazy: async () => ({ Component: (await import('./TransferPage.js')).TransferPage }) },
    { path: 'bringup/:place/joining', lazy: async () => ({ Component: (await import('./JoiningPage.js')).JoiningPage }) },
    { path: 'bringup/:place', lazy: async () => ({ Component: (await import('./PlacePage.js')).PlacePage }) },
  ],
  live: { results: ['bringup'], boot: ['bringup'] },
};
