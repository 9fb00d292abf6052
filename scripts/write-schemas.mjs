// Writes docs/estate-files.schema.json from the schemas of the estate's files. A test checks that it is fresh.
import { writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { ensureBuilt, ensureModules, root } from './ready.mjs';

ensureModules();
ensureBuilt();
const { jsonSchemas } = await import('../packages/contracts/dist/index.js');
writeFileSync(join(root, 'docs/estate-files.schema.json'), `${JSON.stringify(jsonSchemas(), null, 1)}\n`);
