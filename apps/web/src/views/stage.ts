import type { Stage } from '../shell/stage.js';

export const viewsStage: Stage = {
  routes: [{ path: 'view/:id', lazy: async () => ({ Component: (await import('./ViewPage.js')).ViewPage }) }],
};
