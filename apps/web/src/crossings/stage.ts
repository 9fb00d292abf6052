import type { Stage } from '../shell/stage.js';

export const crossingsStage: Stage = {
  menu: { name: 'Crossings', to: '/crossings', key: 'g c' },
  routes: [
    { path: 'crossings', lazy: async () => ({ Component: (await import('./CrossingsPage.js')).CrossingsPage }) },
    { path: 'crossings/:id', lazy: async () => ({ Component: (await import('./CrossingPage.js')).CrossingPage }) },
  ],
  shortcuts: [
    ['1 to 7', 'Bay of the drawing'],
    ['f', 'Findings'],
    ['y', 'Try a change'],
    ['d', 'Keep as draft'],
    ['i', 'Impact on the estate'],
    ['t', 'Table in place of the drawing'],
  ],
  actions: [
    { name: 'Crossings by finding', to: '/crossings?by=finding' },
    { name: 'Crossings by place', to: '/crossings?by=location' },
    { name: 'Crossings by resource', to: '/crossings?by=resource' },
    { name: 'Export crossings', to: '/crossings', exports: 'crossings.csv', engineer: true },
    { name: 'Send a field check: choose whose crossing', to: '/crossings?verdict=unknown', engineer: true },
  ],
  live: { results: ['crossings', 'crossing', 'history'], check: ['check-links'], job: ['jobs'] },
};
