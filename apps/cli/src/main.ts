import { CommandError } from './commandError.js';
import { commandLine } from './commandLine.js';

commandLine(process.argv.slice(2)).then(
  (text) => process.stdout.write(text),
  (error: unknown) => {
    if (!(error instanceof CommandError)) throw error;
    process.stderr.write(`underpass: ${error.message}\n`);
    process.exitCode = 2;
  },
);
