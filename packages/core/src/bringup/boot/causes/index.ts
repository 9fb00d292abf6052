import { address, link } from './network.js';
import { files, server, told } from './settings.js';
import { broker, firmware, signIn, time } from './signIn.js';

/** Everything that is found to keep a device from its sign-in screen. */
export const bootCauses = { ...link, ...address, ...told, ...server, ...files, ...firmware, ...time, ...broker, ...signIn };
/** The name of a cause. */
export type BootCause = keyof typeof bootCauses;
