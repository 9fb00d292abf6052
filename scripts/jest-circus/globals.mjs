// What tests and their helpers import from @jest/globals: always those of the test file that runs.
const nobody = () => undefined;
const current = (name) =>
  new Proxy(nobody, {
    apply: (_, __, args) => globalThis.jestGlobals[name](...args),
    get: (_, key) => {
      const found = globalThis.jestGlobals[name][key];
      // timers are an object with methods, the others functions with more functions on them
      return name === 'jest' ? found.bind(globalThis.jestGlobals.jest) : found;
    },
  });

export const afterAll = current('afterAll');
export const afterEach = current('afterEach');
export const beforeAll = current('beforeAll');
export const beforeEach = current('beforeEach');
export const describe = current('describe');
export const expect = current('expect');
export const it = current('it');
export const jest = current('jest');
export const test = current('test');
