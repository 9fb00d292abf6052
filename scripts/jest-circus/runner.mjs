// Runs a test file with Jest's own test framework, but loads it with Node itself instead of in a sandbox: what the tests of a worker
// have in common is loaded once and runs at its full speed (core's tests in less than half the time).
import { createRequire, register } from 'node:module';
import { pathToFileURL } from 'node:url';
import fc from 'fast-check';

const require = createRequire(import.meta.url);
const asyncHooks = require('node:async_hooks');
const { default: jestAdapter } = require('jest-circus/runner');
register('./hooks.mjs', import.meta.url);
// places in the TypeScript that was written: Node's own maps are read only where something fails
process.setSourceMapsEnabled(true);
// the same made-up inputs in every run, so that whether a commit passes hangs on the commit alone; other ones are looked for with SEED=random
if (process.env.SEED !== 'random') fc.configureGlobal({ seed: Number(process.env.SEED ?? 1) });
let round = 0;

/** Loads the test framework anew, since its state is that of one test file; and what it follows calls with, which costs until it is let go of. */
function framework(path) {
  const { AsyncLocalStorage } = asyncHooks;
  const followers = [];
  asyncHooks.AsyncLocalStorage = class extends AsyncLocalStorage {
    constructor() {
      super();
      followers.push(this);
    }
  };
  delete require.cache[path];
  delete globalThis[Symbol.for('EVENT_HANDLERS')];
  const loaded = require(path);
  asyncHooks.AsyncLocalStorage = AsyncLocalStorage;
  return { loaded, followers };
}

/** Timers that tests set by hand. */
function timersOf({ fakeTimersModern }, config) {
  const { constructor: Timers } = fakeTimersModern;
  return new Timers({ config, global: globalThis });
}

/** Runs of the framework by their settings: what is loaded for one of their test files is there for the others. */
const runs = new WeakMap();
/** The number of a run of the framework. */
function numberOf(globalConfig) {
  if (!runs.has(globalConfig)) runs.set(globalConfig, ++round);
  return runs.get(globalConfig);
}
/** A test file is loaded anew each time, and what it imports is what is there already. */
const sharing = () => `run=${++round}`;
/** Nothing of the project that was loaded in another run of the framework is used again. */
export const alone = (globalConfig) => `alone=${numberOf(globalConfig)}`;

/** @param loading as what a test file is loaded, by the settings of the framework */
export const runnerOf = (loading) => async (globalConfig, config, environment, runtime, testPath, send) => {
  const as = loading(globalConfig);
  // Jest puts a reader of maps of its own here for each file, and each asks all before it
  Error.prepareStackTrace = undefined;
  let followers = [];
  const timers = timersOf(environment, config);
  const native = Object.create(runtime, {
    requireInternalModule: {
      value: (path) => {
        const { loaded, followers: made } = framework(path);
        followers = made;
        return loaded;
      },
    },
    requireModule: { value: (path) => require(path) },
    setGlobalsForRuntime: { value: (globals) => Object.assign(globalThis, { jestGlobals: { ...globals, jest: timers } }) },
    unstable_shouldLoadAsEsm: { value: () => true },
    unstable_importModule: { value: (path) => import(`${pathToFileURL(path).href}?${as}`) },
  });
  try {
    return await jestAdapter(globalConfig, config, environment, native, testPath, send);
  } finally {
    timers.dispose();
    for (const each of followers) each.disable();
  }
};

export default runnerOf(sharing);
