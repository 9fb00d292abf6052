import type { Stage } from '../shell/stage.js';

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
  live: { results: ['estate', 'changes'] },
};
