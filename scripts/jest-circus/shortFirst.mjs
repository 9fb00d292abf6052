// The order in which a fault is tried: what is held against a page first, then what holds most in little time, then the short files;
// the first that fails ends it.
import { statSync } from 'node:fs';
import { createRequire } from 'node:module';

const { default: Sequencer } = createRequire(import.meta.url)('@jest/test-sequencer');
const first = ['page', 'golden', 'thresholds', 'sure', 'findings'].map((name) => `/${name}.test.ts`);
const rank = ({ path }) => {
  const at = first.findIndex((name) => path.endsWith(name));
  return at < 0 ? first.length : at;
};

export default class ShortFirst extends Sequencer {
  sort(tests) {
    const size = new Map(tests.map((test) => [test, statSync(test.path).size]));
    return [...tests].sort((a, b) => rank(a) - rank(b) || size.get(a) - size.get(b));
  }
}
