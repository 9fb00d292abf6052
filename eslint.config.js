import js from '@eslint/js';
import hooks from 'eslint-plugin-react-hooks';
import tseslint from 'typescript-eslint';

/** What core gives to others says what it is: meaning and unit stand in a docstring right above it. */
const documented = {
  create: ({ report, sourceCode }) => ({
    'Program > ExportNamedDeclaration[declaration]'(node) {
      const above = sourceCode.getCommentsBefore(node).at(-1);
      if (!above?.value.startsWith('*')) report({ node, message: 'Say in a docstring what this is, with its unit and range.' });
    },
  }),
};

export default tseslint.config(
  { ignores: ['**/dist/', '**/.cache/', '**/.tmp-test/', '.data/', 'demo/', '**/*.mjs', '**/*.cjs', '**/*.js'] },
  js.configs.recommended,
  ...tseslint.configs.recommended,
  {
    languageOptions: { parserOptions: { projectService: true, emitDecoratorMetadata: true } },
    rules: {
      'no-undef': 'off', // the compiler knows better
      'no-useless-assignment': 'off', // does not see uses in the arguments of decorators
      '@typescript-eslint/no-floating-promises': 'error',
      '@typescript-eslint/no-misused-promises': ['error', { checksVoidReturn: { attributes: false } }],
      '@typescript-eslint/consistent-type-imports': 'error',
      '@typescript-eslint/no-unused-vars': ['error', { argsIgnorePattern: '^_', varsIgnorePattern: '^_' }],
      '@typescript-eslint/switch-exhaustiveness-check': ['error', { considerDefaultExhaustiveForUnions: true }],
    },
  },
  {
    files: ['packages/core/src/**/*.ts'],
    ignores: ['**/*.test.ts'],
    plugins: { ours: { rules: { documented } } },
    rules: {
      'ours/documented': 'error',
      'no-restricted-globals': ['error', 'process', 'fetch', 'setTimeout', 'window', 'document', 'performance'],
      'no-restricted-properties': ['error', { object: 'Math', property: 'random' }, { object: 'Date', property: 'now' }],
    },
  },
  {
    // a promise nobody awaits ends the process when it fails, and a void before it hides that: on the server every one is caught
    files: ['apps/server/src/**/*.ts', 'packages/standins/src/**/*.ts'],
    ignores: ['**/*.test.ts'],
    rules: { '@typescript-eslint/no-floating-promises': ['error', { ignoreVoid: false }] },
  },
  {
    files: ['apps/web/**/*.{ts,tsx}'],
    plugins: { 'react-hooks': hooks },
    rules: { 'react-hooks/rules-of-hooks': 'error', 'react-hooks/exhaustive-deps': 'error' },
  },
);
