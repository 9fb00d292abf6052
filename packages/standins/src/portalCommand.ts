import { underpassAt } from './portal/client.js';
import { openPortal } from './portal/portal.js';

/** Opens the stand-in portal: node portalCommand.js PORT UNDERPASS_URL, with PORTAL_KEY in the environment. Runs until it is stopped. */
const [port = '', url = ''] = process.argv.slice(2);
const portal = await openPortal({ port: Number(port), underpass: underpassAt(url, process.env.PORTAL_KEY ?? '') });
process.send?.({ ready: true });
const end = () => process.exit(0);
const stop = () => {
  portal.close().then(end, end);
};
process.on('SIGTERM', stop);
process.on('SIGINT', stop);
process.on('disconnect', stop);
