import type { Stage } from '../shell/stage.js';

/** Reached from the menu of one's own name. */
export const signinStage: Stage = {
  routes: [
    { path: 'account', lazy: async () => ({ Component: (await import('./AccountPage.js')).AccountPage }) },
    { path: 'sign-ins', lazy: async () => ({ Component: (await import('./SignInsPage.js')).SignInsPage }) },
    { path: 'sign-ins/log', lazy: async () => ({ Component: (await import('./SecurityLogPage.js')).SecurityLogPage }) },
  ],
  live: { ended: ['session'] },
};
