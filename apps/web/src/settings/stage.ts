import type { Stage } from '../shell/stage.js';
import { parts } from './parts.js';

export const settingsStage: Stage = {
  menu: { name: 'Settings', to: '/settings', key: 'g s' },
  routes: [
    {
      path: 'settings',
      lazy: async () => ({ Component: (await import('./SettingsStage.js')).SettingsStage }),
      children: [
        ...parts.map(({ route }) => route),
        { path: 'drafts/:id', lazy: async () => ({ Component: (await import('./DraftPage.js')).DraftPage }) },
      ],
    },
  ],
  actions: [
    ...parts.filter(({ to }) => to !== '/settings').map(({ name, to }) => ({ name: `Settings: ${name.toLowerCase()}`, to })),
    { name: 'Why a device does not appear', to: '/settings/redirection' },
    { name: 'Compare two people', to: '/settings/compare' },
    { name: 'Export the settings of somebody', to: '/settings/compare' },
  ],
  live: { results: ['settings', 'drafts'] },
};
