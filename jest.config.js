import { swcOptions } from './scripts/jest-circus/swc.mjs';

const runner = new URL('./scripts/jest-circus/runner.mjs', import.meta.url).pathname;
const project = (name, root) => ({
  displayName: name,
  rootDir: root,
  testEnvironment: 'node',
  testRunner: runner,
  extensionsToTreatAsEsm: ['.ts'],
  transform: { '^.+\\.ts$': ['@swc/jest', swcOptions] },
  testMatch: ['**/*.test.ts'],
  modulePathIgnorePatterns: ['/dist/', '/.tmp-test/'],
});
export default {
  testTimeout: 40_000, // servers and databases on a busy machine
  projects: [
    project('contracts', 'packages/contracts'),
    project('core', 'packages/core'),
    project('standins', 'packages/standins'),
    project('cli', 'apps/cli'),
    project('server', 'apps/server'),
    project('web', 'apps/web'),
  ],
};
