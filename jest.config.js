const transform = {
  '^.+\\.ts$': [
    '@swc/jest',
    {
      jsc: {
        parser: { syntax: 'typescript', decorators: true },
        transform: { legacyDecorator: true, decoratorMetadata: true, useDefineForClassFields: false },
        target: 'es2022',
      },
      module: { type: 'es6' },
    },
  ],
};
const base = {
  testEnvironment: 'node',
  testEnvironmentOptions: { customExportConditions: ['@underpass/source', 'node', 'node-addons'] },
  extensionsToTreatAsEsm: ['.ts'],
  moduleNameMapper: { '^(\\.{1,2}/.*)\\.js$': '$1' },
  transform,
  transformIgnorePatterns: ['/node_modules/'],
};
const project = (name, root) => ({
  ...base,
  displayName: name,
  rootDir: root,
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
