// Puts the demo back: the database of npm start is dropped and loaded anew at the next start.
import { startCluster } from './cluster.mjs';
import { say } from './ready.mjs';

if (process.env.DATABASE_URL) {
  process.stderr.write('DATABASE_URL points to a database of your own; this command only resets the project’s own.\n');
  process.exit(1);
}
const cluster = await startCluster('postgres', 4610, say);
const dropped = cluster.drop('underpass');
cluster.stop();
if (dropped.status !== 0) {
  process.stderr.write(`The demo could not be reset: ${dropped.stderr}\n`);
  process.exit(1);
}
process.stdout.write('The demo is back to its beginning. Start with npm start (a server that is running must be started again).\n');
