// The order in which a fault is tried: what is held against a page first, then the short files; the first that fails ends it.
import { statSync } from 'node:fs';
import { createRequire } from 'node:module';

const { default: Sequencer } = createRequire(import.meta.url)('@jest/test-sequencer');
const isPage = ({ path }) => path.endsWith('page.test.ts');

export default class ShortFirst extends Sequencer {
  sort(tests) {
    const size = new Map(tests.map((test) => [test, statSync(test.path).size]));
    return [...tests].sort((a, b) => isPage(b) - isPage(a) || size.get(a) - size.get(b));
  }
}
