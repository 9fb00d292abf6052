import type { Stage } from '../shell/stage.js';

export const boardStage: Stage = {
  menu: { name: 'Board', to: '/board', key: 'g b' },
  routes: [{ path: 'board', lazy: async () => ({ Component: (await import('./BoardPage.js')).BoardPage }) }],
  live: { results: ['board'] },
};
