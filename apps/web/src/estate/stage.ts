import type { Stage } from '../shell/stage.js';

const titles = {
  location: 'Locations',
  person: 'People',
  endpoint: 'Endpoints',
  resource: 'Resources',
  group: 'Groups',
  publication: 'Publications of the estate',
  host: 'Hosts',
  setting: 'Settings',
} as const;

export const estateStage: Stage = {
  menu: { name: 'Estate', to: '/estate', key: 'g e' },
  routes: [
    { path: 'estate', lazy: async () => ({ Component: (await import('./EstatePage.js')).EstatePage }) },
    { path: 'estate/import', lazy: async () => ({ Component: (await import('./ImportPage.js')).ImportPage }) },
    { path: 'estate/changes', lazy: async () => ({ Component: (await import('./ChangesPage.js')).ChangesPage }) },
    { path: 'estate/measurements', lazy: async () => ({ Component: (await import('./MeasurementPage.js')).MeasurementPage }) },
    { path: 'estate/assumed', lazy: async () => ({ Component: (await import('./AssumedPage.js')).AssumedPage }) },
    { path: 'estate/:kind', lazy: async () => ({ Component: (await import('./EstatePage.js')).EstatePage }) },
    { path: 'estate/:kind/:id', lazy: async () => ({ Component: (await import('./ObjectPage.js')).ObjectPage }) },
  ],
  actions: [
    { name: 'Import a folder', to: '/estate/import', engineer: true },
    { name: 'Bring in a measurement', to: '/estate/measurements', engineer: true },
    { name: 'Export the estate', to: '/estate', exports: 'estate.zip', engineer: true },
    { name: 'What is assumed', to: '/estate/assumed' },
    { name: 'Changes: take one back, drafts', to: '/estate/changes' },
    ...(['location', 'person', 'endpoint', 'resource', 'group', 'publication', 'host', 'setting'] as const).flatMap((kind) => [
      { name: `${titles[kind]}`, to: `/estate/${kind}` },
      { name: `Add to ${titles[kind].toLowerCase()}`, to: `/estate/${kind}/new`, engineer: true as const },
    ]),
  ],
  live: { results: ['estate', 'changes'] },
};
