/** How TypeScript becomes JavaScript for tests; decorators as the server's build has them. */
export const swcOptions = {
  jsc: {
    parser: { syntax: 'typescript', decorators: true },
    transform: { legacyDecorator: true, decoratorMetadata: true, useDefineForClassFields: false },
    target: 'es2022',
  },
  module: { type: 'es6' },
};
