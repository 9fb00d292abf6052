// The runner of tests while faults are put in. The project's files are loaded once and a fault is switched on in them; what is reached
// while they are loaded is loaded for that fault alone. Nothing remembered from another fault's run may speak for one: where a test
// fails, it is tried without the fault, and where it fails then too, everything is loaded anew and the fault tried alone. A test file of
// which no test reaches the fault is not even loaded, and a test that takes long is left out: every fault that nobody notices would wait for it.
import { existsSync, mkdirSync, readdirSync, readFileSync, writeFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import { join } from 'node:path';
import { pathToFileURL } from 'node:url';
import fc from 'fast-check';
import { alone, runnerOf } from './runner.mjs';
import { notice } from './shortFirst.mjs';

// one counter-example is enough: it is not made smaller. A fault that only one of hundreds of made-up inputs shows is not counted as noticed, nor would each be tried in time
fc.configureGlobal({ ...fc.readConfigureGlobal(), numRuns: 25, endOnFailure: true });
process.setSourceMapsEnabled(false);
const { createEmptyTestResult } = createRequire(import.meta.url)('@jest/test-result');

/** A test that takes longer without a fault holds nothing in this, ms. */
const longMs = 500;
const active = '__STRYKER_ACTIVE_MUTANT__';
/** What was loaded for many faults: its number, what switches faults on in it, and those that were reached while it was loaded. */
let shared = null;
let count = 0;
const runAlone = runnerOf(alone);
const runShared = runnerOf((globalConfig) => `${alone(globalConfig)}~s${shared.number}`);

/** Loads all files of core without a fault. */
async function load(core) {
  const switches = {};
  globalThis.__stryker__ = switches;
  const number = ++count;
  const fault = process.env[active];
  delete process.env[active];
  try {
    for (const file of readdirSync(join(core, 'src'), { recursive: true }))
      if (/(?<!\.test|\.d)\.ts$/.test(file)) await import(`${pathToFileURL(join(core, 'src', file)).href}?alone=s${number}`);
  } finally {
    process.env[active] = fault;
  }
  return { number, switches, static: new Set(Object.keys(switches.mutantCoverage?.static ?? {})) };
}

/** The first test that fails has noticed the fault: those after it in the file are left out, and so are those that take long. */
function endAtFirstFailure(environment, long) {
  const next = environment.handleTestEvent?.bind(environment);
  const failed = [];
  environment.handleTestEvent = (event, state) => {
    if (event.name === 'test_done' && event.test.errors.length > 0) failed.push(nameOf(event.test));
    if (event.name === 'test_start' && (failed.length > 0 || long.has(nameOf(event.test)))) event.test.mode = 'skip';
    return next?.(event, state);
  };
  return failed;
}
const nameOf = ({ name, parent }) => (parent && parent.name !== 'ROOT_DESCRIBE_BLOCK' ? `${nameOf(parent)} ${name}` : name);
const exactly = (name) => `^${name.replace(/[.*+?^${}()|[\]\\]/g, '\\$&')}$`;

/** Where a file's tests are kept, for all processes that put faults in: they are told once, by the run without a fault. */
const testsFile = (testPath) => {
  const [root, file] = testPath.split('/packages/core/src/');
  return join(root, 'tests-by-file', `${file.replaceAll('/', '~')}.json`);
};
const known = new Map();
function keepTests(testPath, { testResults }) {
  const file = testsFile(testPath);
  mkdirSync(join(file, '..'), { recursive: true });
  writeFileSync(file, JSON.stringify(testResults.map(({ fullName, duration }) => ({ name: fullName, long: duration > longMs }))));
}
function testsOf(testPath) {
  if (!known.has(testPath)) {
    const file = testsFile(testPath);
    known.set(testPath, existsSync(file) ? JSON.parse(readFileSync(file, 'utf8')) : []);
  }
  return known.get(testPath);
}
/** The result of a file of whose tests none is asked for, or those that take long alone, with each told as left out; null where one is. */
function leftOut(testPath, pattern) {
  const tests = testsOf(testPath);
  const wanted = new RegExp(pattern ?? '', 'i');
  if (!tests.length || tests.some(({ name, long }) => !long && wanted.test(name))) return null;
  const testResults = tests.map(({ name }) => ({
    ...{ ancestorTitles: [], title: name, fullName: name, status: 'pending', duration: null, failureDetails: [], failureMessages: [] },
    ...{ invocations: 0, location: null, numPassingAsserts: 0, retryReasons: [] },
  }));
  return { ...createEmptyTestResult(), testFilePath: testPath, testResults, numPendingTests: tests.length };
}

export default async (globalConfig, config, environment, runtime, testPath, send) => {
  const fault = process.env[active];
  const told = environment.global.__stryker__ ?? globalThis.__stryker__ ?? {};
  const byItself = async () => {
    globalThis.__stryker__ = told;
    told.activeMutant = fault;
    const result = await runAlone(globalConfig, config, environment, runtime, testPath, send);
    if (fault && result.numFailingTests > 0) notice(fault, testPath);
    return result;
  };
  if (!fault) {
    const result = await byItself();
    keepTests(testPath, result);
    return result;
  }
  const none = leftOut(testPath, globalConfig.testNamePattern);
  if (none) return none;
  const failed = endAtFirstFailure(environment, new Set(testsOf(testPath).flatMap(({ name, long }) => (long ? [name] : []))));
  shared ??= await load(testPath.replace(/\/src\/.*/, ''));
  if (shared.static.has(fault)) return byItself();
  const { switches } = shared;
  globalThis.__stryker__ = switches;
  Object.assign(switches, { activeMutant: fault, hitCount: told.hitCount, hitLimit: told.hitLimit });
  const result = await runShared(globalConfig, config, environment, runtime, testPath, send);
  told.hitCount = switches.hitCount;
  if (failed.length === 0) return result;
  Object.assign(switches, { activeMutant: undefined, hitCount: undefined, hitLimit: undefined });
  const name = failed[0];
  failed.length = 0;
  const without = await runShared({ ...globalConfig, testNamePattern: exactly(name) }, config, environment, runtime, testPath, undefined);
  if (without.numFailingTests === 0) {
    notice(fault, testPath);
    return result;
  }
  shared = null;
  failed.length = 0;
  return byItself();
};
