import type { Stage } from '../shell/stage.js';

export const bringupStage: Stage = {
  menu: { name: 'Bring-up', to: '/bringup', key: 'g u' },
  routes: [
    { path: 'bringup', lazy: async () => ({ Component: (await import('./BringupPage.js')).BringupPage }) },
    { path: 'bringup/all/firmware', lazy: async () => ({ Component: (await import('./FirmwarePage.js')).FirmwarePage }) },
    { path: 'bringup/all/images', lazy: async () => ({ Component: (await import('./images/ImagesPage.js')).ImagesPage }) },
    { path: 'bringup/all/cost', lazy: async () => ({ Component: (await import('./cost/CostPage.js')).CostPage }) },
    { path: 'bringup/all/recipes', lazy: async () => ({ Component: (await import('./recipes/RecipesPage.js')).RecipesPage }) },
    {
      path: 'bringup/all/telephone/:endpoint',
      lazy: async () => ({ Component: (await import('./telephone/TelephonePage.js')).TelephonePage }),
    },
    { path: 'bringup/all/desk/:endpoint', lazy: async () => ({ Component: (await import('./desk/DeskPage.js')).DeskPage }) },
    { path: 'bringup/:place/arriving', lazy: async () => ({ Component: (await import('./ArrivingPage.js')).ArrivingPage }) },
    { path: 'bringup/:place/transfer', lazy: async () => ({ Component: (await import('./TransferPage.js')).TransferPage }) },
    { path: 'bringup/:place/joining', lazy: async () => ({ Component: (await import('./JoiningPage.js')).JoiningPage }) },
    { path: 'bringup/:place', lazy: async () => ({ Component: (await import('./PlacePage.js')).PlacePage }) },
  ],
  actions: [
    { name: 'Put up firmware', to: '/bringup/all/firmware', engineer: true },
    { name: 'Plan a card', to: '/bringup/all/images' },
    { name: 'Prepare a host by a recipe', to: '/bringup/all/recipes' },
    { name: 'Compare what devices cost', to: '/bringup/all/cost' },
  ],
  live: { results: ['bringup'], boot: ['bringup'] },
};
