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
  live: { results: ['crossings', 'crossing', 'history'], check: ['check-links'], job: ['jobs'] },
};
