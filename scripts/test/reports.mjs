// What the runners of tests write down: how many passed, and which failed with which message.
const plain = (text) => text.replace(/\u001b\[[0-9;]*m/g, '');

/** The first lines of a message that say something, in one line. */
const short = (message) =>
  plain(message ?? 'no message')
    .split('\n')
    .map((line) => line.trim())
    .filter((line) => line !== '' && !line.startsWith('at '))
    .slice(0, 8)
    .join(' / ')
    .slice(0, 400);

/** @param {any} report of Jest */
export function ofUnits(report, root) {
  const failures = report.testResults
    .filter(({ status }) => status === 'failed')
    .flatMap(({ name, message, assertionResults }) => {
      const file = name.replace(`${root}/`, '');
      const failed = assertionResults.filter(({ status }) => status === 'failed');
      if (failed.length === 0) return [{ file, test: 'the whole file', why: short(message) }];
      return failed.map(({ fullName, failureMessages }) => ({ file, test: fullName, why: short(failureMessages[0]) }));
    });
  return {
    passed: report.numPassedTests,
    failed: report.numFailedTests + report.numRuntimeErrorTestSuites,
    skipped: report.numPendingTests,
    failures,
  };
}

/** @param {any} report of Playwright */
export function ofBrowsers({ suites, stats, errors }) {
  const failures = errors.map(({ message }) => ({ file: 'e2e', test: 'before any test', why: short(message) }));
  const look = (suite) => {
    for (const { ok, title, tests } of suite.specs ?? [])
      if (!ok) failures.push({ file: suite.file, test: title, why: short(tests.at(-1)?.results.at(-1)?.error?.message) });
    for (const each of suite.suites ?? []) look(each);
  };
  for (const suite of suites) look(suite);
  return { passed: stats.expected + stats.flaky, failed: stats.unexpected + errors.length, skipped: stats.skipped, failures };
}

/** A list under its heading, last in the output, where whoever sees only its end finds it. */
export const listed = (heading, failures) =>
  failures.length ? `\n${heading}\n${failures.map(({ file, test, why }) => `  ${file} › ${test}\n    ${why}`).join('\n')}\n` : '';
