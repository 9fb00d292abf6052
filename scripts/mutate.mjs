// npm run mutate [subject…]: puts small faults into packages/core, one at a time, and tells which of them no test notices.
// Each subject (a folder of packages/core/src, or a room in one: intake/scim) is tried against its own tests, and remembered, so that only what changed is tried again.
// `npm run mutate -- --every 5 crossing/own` tries every fifth stretch of lines of each file, where all of a room would take hours.
// `npm run mutate -- --report` writes what is remembered of all subjects into docs/testing.md without running anything.
import { existsSync, mkdirSync, readFileSync, readdirSync, statSync, writeFileSync } from 'node:fs';
import { spawnSync } from 'node:child_process';
import { join } from 'node:path';
import jestConfig from '../jest.config.js';
import { ensureModules, root } from './ready.mjs';

const source = join(root, 'packages/core/src');
const cache = join(root, '.cache/mutate');
const page = join(root, 'docs/testing.md');
/** Tests that go over the whole demo estate: they notice a great deal and take minutes for it. */
const slow = [
  'change/change.test.ts',
  'change/paper.test.ts',
  'change/silent.test.ts',
  'crossing/crossing.test.ts',
  'crossing/everySetting.test.ts',
  'crossing/properties.test.ts',
  'crossing/slice.test.ts',
  'tally/demo.test.ts',
  'telling/section.test.ts',
];
const subjects = readdirSync(source).filter((name) => statSync(join(source, name)).isDirectory());
/** Rooms of subjects that are large: each can be tried by itself, and so can what lies in none of them. */
const own = 'own';
const rooms = subjects.flatMap((subject) => {
  const within = readdirSync(join(source, subject))
    .filter((name) => name !== 'fixtures' && statSync(join(source, subject, name)).isDirectory())
    .map((name) => `${subject}/${name}`);
  return within.length ? [`${subject}/${own}`, ...within] : [];
});
/** Tests beside a room that hold it too, since they go through a whole crossing. */
const testedBeside = { 'crossing/findings': ['golden', 'thresholds', 'sure', 'named', 'day'].map((name) => `crossing/${name}.test.ts`) };
/** The name of a subject or room in the name of a file. */
const fileOf = (subject) => subject.replace('/', '-');
const ofOwn = (name) => name.endsWith(`/${own}`);
function testsIn(name) {
  const folder = ofOwn(name) ? name.split('/')[0] : name;
  return readdirSync(join(source, folder), { recursive: !ofOwn(name) })
    .map((file) => `${folder}/${file}`)
    .filter((file) => file.endsWith('.test.ts') && !slow.includes(file))
    .concat(testedBeside[name] ?? [])
    .map((file) => `packages/core/src/${file}`);
}
const folderOf = (name) => (ofOwn(name) ? name.split('/')[0] : name);
// a table that a script writes is held against that script
const isMutated = (file) => file.endsWith('.ts') && !/(\.test\.ts|(^|\/)index\.ts|(^|\/)browserSupport\.ts)$/.test(file);
const filesOf = (name) =>
  readdirSync(join(source, folderOf(name)), { recursive: !ofOwn(name) })
    .filter(isMutated)
    .map((file) => `packages/core/src/${folderOf(name)}/${file}`);
/** Lines that are tried together where not all are. */
const stretch = 12;
/** Every so many-th stretch of lines of each file, beginning at another one in the next file. */
const stretchesOf = (file, at, every) => {
  const lines = readFileSync(join(root, file), 'utf8').split('\n').length;
  const starts = Array.from({ length: Math.ceil(lines / stretch) }, (_, i) => i).filter((i) => (i + at) % every === 0);
  return starts.map((i) => `${file}:${i * stretch + 1}-${(i + 1) * stretch}`);
};
/** Files that are tried in one go: of a room with more, what a go found is kept when it ends. */
const filesAtOnce = 9;
/** What a go is called in the names of files. */
const goOf = (subject, go) => `${fileOf(subject)}${go === 0 ? '' : `-${go + 1}`}`;
/** One in so many stretches of a room was tried. */
const partFile = (subject) => join(cache, `${fileOf(subject)}.part`);
const partOf = (subject) => (existsSync(partFile(subject)) ? Number(readFileSync(partFile(subject), 'utf8')) : 1);

function configOf(subject, go, files, tests, every) {
  const { rootDir: _, displayName: __, ...core } = jestConfig.projects.find(({ displayName }) => displayName === 'core');
  return {
    packageManager: 'npm',
    testRunner: 'jest',
    // what was loaded for a fault is never let go of by Node
    maxTestRunnerReuse: 300,
    coverageAnalysis: 'perTest',
    // files stay as they are but for the faults: one is held against the script that writes it
    disableTypeChecks: false,
    mutate: files.flatMap((file, at) => (every > 1 ? stretchesOf(file, at, every) : [file])),
    // the projects of jest.config.js would each run the tests once more
    ignorePatterns: ['jest.config.js', 'apps', 'e2e', 'docs/screenshots', '.cache', '.data', '**/dist', '**/.tmp-test'],
    tempDirName: `.cache/mutate/sandbox-${goOf(subject, go)}`,
    incremental: true,
    incrementalFile: `.cache/mutate/${goOf(subject, go)}.json`,
    reporters: ['clear-text', 'progress-append-only', 'json'],
    jsonReporter: { fileName: `.cache/mutate/${goOf(subject, go)}.go.json` },
    clearTextReporter: { allowColor: false, logTests: false, reportTests: false, reportScoreTable: false },
    concurrency: 2,
    // a machine that does other things beside must not make a slow test look like one that never ends
    timeoutMS: 30_000,
    jest: {
      projectType: 'custom',
      enableFindRelatedTests: false,
      config: {
        ...core,
        roots: ['<rootDir>/packages/core'],
        testRunner: join(root, 'scripts/jest-circus/mutating.mjs'),
        testSequencer: join(root, 'scripts/jest-circus/shortFirst.mjs'),
        testMatch: tests.map((path) => `<rootDir>/${path}`),
      },
    },
  };
}

/** What survived is tried again: the runner would not see that a new test covers what is reached while a file is loaded. */
function forgetSurvivors(subject, go) {
  const file = join(cache, `${goOf(subject, go)}.json`);
  if (!existsSync(file)) return;
  const known = JSON.parse(readFileSync(file, 'utf8'));
  for (const each of Object.values(known.files))
    each.mutants = each.mutants.filter(({ status }) => status === 'Killed' || status === 'Timeout');
  writeFileSync(file, JSON.stringify(known));
}

/**
 * What a go found in the files and lines that it was asked for. What was tried there before stands in the report too, but without what
 * nobody noticed: counted along, it would tell too much.
 */
function withinScope(go, subject, files, every) {
  const all = JSON.parse(readFileSync(join(cache, `${goOf(subject, go)}.go.json`), 'utf8')).files;
  const isAsked = (at, { location: { start } }) => every === 1 || (Math.floor((start.line - 1) / stretch) + at) % every === 0;
  return Object.fromEntries(
    files.flatMap((file, at) =>
      all[file] ? [[file, { ...all[file], mutants: all[file].mutants.filter((each) => isAsked(at, each)) }]] : [],
    ),
  );
}

/** Tries a subject, so many files in one go. @returns what was found of each file */
function tried(subject, tests, every) {
  const files = filesOf(subject);
  const found = {};
  for (let go = 0; go * filesAtOnce < files.length; go++) {
    forgetSurvivors(subject, go);
    const config = join(cache, `${goOf(subject, go)}.config.json`);
    const part = files.slice(go * filesAtOnce, (go + 1) * filesAtOnce);
    writeFileSync(config, JSON.stringify(configOf(subject, go, part, tests, every), null, 2));
    const { status } = spawnSync(process.execPath, ['node_modules/@stryker-mutator/core/bin/stryker.js', 'run', config], {
      cwd: root,
      stdio: 'inherit',
      env: { ...process.env, TZ: 'UTC' },
    });
    if (status !== 0) return { files: found, status };
    Object.assign(found, withinScope(go, subject, part, every));
  }
  return { files: found, status: 0 };
}

/** Found: a test failed or ran for ever. Faults that cannot be (the text of a type, an error while loading) count for nothing. */
function countsOf(subject) {
  const file = join(cache, `${fileOf(subject)}.report.json`);
  if (!existsSync(file)) return null;
  const counts = { noticed: 0, all: 0 };
  for (const { mutants } of Object.values(JSON.parse(readFileSync(file, 'utf8')).files))
    for (const { status } of mutants) {
      if (!['Killed', 'Timeout', 'Survived', 'NoCoverage'].includes(status)) continue;
      counts.all++;
      if (status === 'Killed' || status === 'Timeout') counts.noticed++;
    }
  return counts;
}

function report() {
  const text = readFileSync(page, 'utf8');
  // what another machine found stays until it is tried again here
  const before = new Map([...text.matchAll(/^\| ([a-z]+(?:\/[a-zA-Z]+)?) \| \d.*\|$/gm)].map(([row, subject]) => [subject, row]));
  const rows = [...subjects, ...rooms].sort().flatMap((subject) => {
    const counts = countsOf(subject);
    if (!counts?.all) return before.get(subject) ?? [];
    const part = partOf(subject) > 1 ? ` (one stretch of lines in ${partOf(subject)} tried)` : '';
    return [`| ${subject} | ${counts.all} | ${counts.noticed} | ${Math.round((100 * counts.noticed) / counts.all)} %${part} |`];
  });
  const table = ['| subject | faults | noticed | share |', '| --- | ---: | ---: | ---: |', ...rows].join('\n');
  const marked = /(<!-- faults -->\n)[\s\S]*(<!-- end of faults -->)/;
  writeFileSync(
    page,
    text.replace(marked, (_, start, end) => `${start}\n${table}\n\n${end}`),
  );
  process.stdout.write(`${table}\n`);
}

ensureModules();
const asked = process.argv.slice(2);
const every = asked.includes('--every') ? Number(asked[asked.indexOf('--every') + 1]) : 1;
if (!Number.isInteger(every) || every < 1) {
  process.stderr.write('--every wants a whole number: one stretch of lines in so many is tried.\n');
  process.exit(2);
}
const wanted = asked.filter((name, i) => !name.startsWith('--') && asked[i - 1] !== '--every');
const unknown = wanted.filter((name) => !subjects.includes(name) && !rooms.includes(name));
if (unknown.length) {
  process.stderr.write(`No subject “${unknown[0]}” in packages/core/src. There are: ${subjects.join(', ')}.\n`);
  process.exit(2);
}
if (!asked.includes('--report')) {
  mkdirSync(cache, { recursive: true });
  for (const subject of wanted.length ? wanted : subjects) {
    const tests = testsIn(subject);
    if (!tests.length) {
      process.stdout.write(`${subject}: no tests of its own\n`);
      continue;
    }
    const started = Date.now();
    const { files, status } = tried(subject, tests, every);
    if (status === 0) {
      writeFileSync(partFile(subject), String(every));
      writeFileSync(join(cache, `${fileOf(subject)}.report.json`), JSON.stringify({ files }));
    }
    const counts = countsOf(subject);
    process.stdout.write(
      `${subject}: ${status === 0 && counts ? `${counts.noticed} of ${counts.all} noticed` : 'could not be tried'} (${Math.round((Date.now() - started) / 1000)} s)\n`,
    );
    if (status !== 0) process.exitCode = 1;
  }
}
report();
