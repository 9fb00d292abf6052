import type { Stage } from '../shell/stage.js';

/** Reached from the menu of one's own name. */
export const signinStage: Stage = {
  routes: [
    { path: 'account', lazy: async () => ({ Component: (await import('./AccountPage.js')).AccountPage }) },
    { path: 'sign-ins', lazy: async () => ({ Component: (await import('./SignInsPage.js')).SignInsPage }) },
    { path: 'sign-ins/log', lazy: async () => ({ Component: (await import('./SecurityLogPage.js')).SecurityLogPage }) },
  ],
  actions: [
    { name: 'Your account: password, second factor', to: '/account' },
    { name: 'Who may sign in', to: '/sign-ins', admin: true },
    { name: 'Log of the doors', to: '/sign-ins/log', admin: true },
    { name: 'Export the log of the doors', to: '/sign-ins/log', exports: 'security.log', admin: true },
  ],
  live: { ended: ['session'] },
};
