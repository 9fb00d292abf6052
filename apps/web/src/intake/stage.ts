import type { Stage } from '../shell/stage.js';

export const intakeStage: Stage = {
  routes: [
    { path: 'check-one', lazy: async () => ({ Component: (await import('./OnePage.js')).OnePage }) },
    { path: 'estate/list', lazy: async () => ({ Component: (await import('./ListPage.js')).ListPage }) },
    { path: 'estate/sources', lazy: async () => ({ Component: (await import('./sources/SourcesPage.js')).SourcesPage }) },
    { path: 'estate/devices', lazy: async () => ({ Component: (await import('./devices/DevicesPage.js')).DevicesPage }) },
    { path: 'estate/gaps', lazy: async () => ({ Component: (await import('./GapsPage.js')).GapsPage }) },
  ],
  actions: [
    { name: 'Check one person: a field check with nothing imported', to: '/check-one', engineer: true },
    { name: 'Take in a list: spreadsheet, workbook, directory', to: '/estate/list', engineer: true },
    { name: 'Where facts come from: sources, and which decides', to: '/estate/sources' },
    { name: 'Devices that report, and those that wait to be taken in', to: '/estate/devices' },
    { name: 'Gaps: what is known, and what to measure next', to: '/estate/gaps' },
  ],
  live: { results: ['gaps', 'intake'] },
};
