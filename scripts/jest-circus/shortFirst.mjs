// The order in which a fault is tried: the tests that noticed others of its file first, and those named like the file; then what is held
// against a page, what holds most in little time, and the short files. The first that fails ends it.
import { readdirSync, readFileSync, statSync } from 'node:fs';
import { createRequire } from 'node:module';
import { basename, join } from 'node:path';

const { default: Sequencer } = createRequire(import.meta.url)('@jest/test-sequencer');
const first = ['page', 'golden', 'thresholds', 'sure', 'findings'].map((name) => `/${name}.test.ts`);
const rank = ({ path }) => {
  const at = first.findIndex((name) => path.endsWith(name));
  return at < 0 ? first.length : at;
};

let files = null;
/** The file of core that a fault was put into. @param root where the copy with the faults is */
function fileOf(fault, root) {
  if (!files) {
    files = new Map();
    const source = join(root, 'packages/core/src');
    for (const file of readdirSync(source, { recursive: true }))
      if (file.endsWith('.ts'))
        for (const [, id] of readFileSync(join(source, file), 'utf8').matchAll(/stryMutAct_\w+\("(\d+)"\)/g)) files.set(id, file);
  }
  return files.get(fault);
}
/** How often a test file noticed a fault of a file. */
const noticed = new Map();
/** Remembers that a test file noticed a fault. */
export function notice(fault, testPath) {
  const [root] = testPath.split('/packages/core/src/');
  const key = `${fileOf(fault, root)}|${testPath}`;
  noticed.set(key, (noticed.get(key) ?? 0) + 1);
}

export default class ShortFirst extends Sequencer {
  sort(tests) {
    const fault = process.env.__STRYKER_ACTIVE_MUTANT__;
    const file = fault && tests[0] ? fileOf(fault, tests[0].path.split('/packages/core/src/')[0]) : undefined;
    const times = ({ path }) => noticed.get(`${file}|${path}`) ?? 0;
    const isOwn = ({ path }) => file !== undefined && basename(path) === basename(file).replace('.ts', '.test.ts');
    const size = new Map(tests.map((test) => [test, statSync(test.path).size]));
    return [...tests].sort((a, b) => times(b) - times(a) || isOwn(b) - isOwn(a) || rank(a) - rank(b) || size.get(a) - size.get(b));
  }
}
