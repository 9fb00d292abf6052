// The runner of tests while faults are put in: each fault meets code that was loaded for it alone, so that nothing remembered from
// the run of another one speaks for it.
import fc from 'fast-check';
import { runnerOf } from './runner.mjs';

// one counter-example is enough: it is not made smaller. A fault that only one of hundreds of made-up inputs shows is not counted as noticed, nor would each be tried in time
fc.configureGlobal({ ...fc.readConfigureGlobal(), numRuns: 25, endOnFailure: true });
process.setSourceMapsEnabled(false);
const run = runnerOf(true);

/** The first test that fails has noticed the fault: those after it in the file are left out. */
function endAtFirstFailure(environment) {
  const next = environment.handleTestEvent?.bind(environment);
  let noticed = false;
  environment.handleTestEvent = (event, state) => {
    if (event.name === 'test_done' && event.test.errors.length > 0) noticed = true;
    if (event.name === 'test_start' && noticed) event.test.mode = 'skip';
    return next?.(event, state);
  };
}

export default (globalConfig, config, environment, ...rest) => {
  globalThis.__stryker__ = environment.global.__stryker__ ?? globalThis.__stryker__ ?? {};
  globalThis.__stryker__.activeMutant = process.env.__STRYKER_ACTIVE_MUTANT__;
  if (process.env.__STRYKER_ACTIVE_MUTANT__) endAtFirstFailure(environment);
  return run(globalConfig, config, environment, ...rest);
};
