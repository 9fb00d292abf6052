// What is known of the packages: which have an install script, which have known faults, and a bill of materials. Only node: modules.
import { spawnSync } from 'node:child_process';
import { readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';

const root = join(fileURLToPath(import.meta.url), '../..');

/** Packages with an install script, which is never run (.npmrc): what each would do, and why it is done without. */
const withScripts = {
  '@parcel/watcher': 'would compile; a built one comes with it as a package of its own',
  '@swc/core': 'would look for a built one; it comes as a package of its own',
  '@scarf/scarf': 'would tell its maker of the installation; it does nothing else',
};

export function unlistedScripts() {
  const { packages } = JSON.parse(readFileSync(join(root, 'package-lock.json'), 'utf8'));
  return Object.entries(packages)
    .filter(([, { hasInstallScript }]) => hasInstallScript)
    .map(([path]) => path.replace(/^.*node_modules\//, ''))
    .filter((name) => !Object.hasOwn(withScripts, name));
}
const scriptsAreOff = () => /^ignore-scripts\s*=\s*true$/m.test(readFileSync(join(root, '.npmrc'), 'utf8'));

/** Known faults of what is shipped, by the registry's word; null where it does not answer. */
export function knownFaults() {
  const done = spawnSync('npm', ['audit', '--omit=dev', '--json', '--audit-level=high'], { cwd: root, encoding: 'utf8', timeout: 60_000 });
  let report;
  try {
    report = JSON.parse(done.stdout);
  } catch {
    return null;
  }
  if (report.error || !report.metadata) return null;
  return Object.values(report.vulnerabilities ?? {})
    .filter(({ severity }) => severity === 'high' || severity === 'critical')
    .map(({ name, severity, range }) => `${name} ${range}: ${severity}`);
}

const [command] = process.argv.slice(2);
if (command === 'sbom') {
  const done = spawnSync('npm', ['sbom', '--sbom-format=cyclonedx', '--omit=dev', '--package-lock-only'], {
    cwd: root,
    encoding: 'utf8',
    maxBuffer: 64 * 1024 * 1024,
  });
  if (done.status !== 0) {
    process.stderr.write(`The bill of materials could not be made: ${done.stderr}\n`);
    process.exit(1);
  }
  writeFileSync(join(root, 'sbom.cdx.json'), done.stdout);
  process.stdout.write(`sbom.cdx.json: ${JSON.parse(done.stdout).components.length} packages\n`);
} else if (command === 'check') {
  const wrong = [
    ...unlistedScripts().map((name) => `${name} has an install script and is not on the list in scripts/packages.mjs`),
    ...(scriptsAreOff() ? [] : ['.npmrc does not switch install scripts off']),
  ];
  const faults = knownFaults();
  if (faults === null) process.stdout.write('skipped: the registry does not say whether packages have known faults\n');
  for (const line of [...wrong, ...(faults ?? [])]) process.stdout.write(`${line}\n`);
  process.exit(wrong.length || faults?.length ? 1 : faults === null ? 3 : 0);
}
