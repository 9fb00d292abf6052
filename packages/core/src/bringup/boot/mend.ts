import type { Patch, Scope } from '@underpass/contracts';
import type { BootBreak } from './boot.js';
import type { BootCause } from './causes/index.js';
import type { BootFacts } from './facts.js';
import { placeOf } from './serverPlace.js';

type Device = Readonly<Record<string, unknown>>;
type Mend = (facts: BootFacts, words: BootBreak['words']) => Patch[] | null;

const device =
  (set: (facts: BootFacts) => Device | null): Mend =>
  (facts) => {
    const fields = set(facts);
    return fields && [{ do: 'change', kind: 'endpoint', id: facts.endpoint.id, set: fields as never }];
  };
/** The network as its place has it. */
const joined = device(({ location }) => (location.wifi?.name === undefined ? null : { wifi: location.wifi }));

/** The option of the class, as its devices read it, with where the settings server is: in the scope that answers them. */
const toServer: Mend = ({ fleet, servers, scopes }, words) => {
  // the one that was meant, where that is known
  const server = servers.find(({ address }) => address === words.server) ?? servers[0];
  if (!fleet || !server) return null;
  const { code, type } = fleet.serverOption;
  const host = placeOf(server.address)?.host;
  if (type === 'address' && (host === undefined || !/^[\d.]+$/.test(host))) return null;
  const value = type === 'address' ? (host as string) : /^https?:/.test(server.address) ? server.address : `http://${server.address}/`;
  const hosts = new Set(servers.map(({ address }) => placeOf(address)?.host));
  const misplaced = (option: Scope['options'][number]) =>
    option.code >= 224 && option.code !== code && hosts.has(placeOf(option.value.trim())?.host);
  const scope =
    scopes.find(({ vendorClass, options }) => mine(vendorClass, fleet.vendorClass) && options.some((option) => option.code === code)) ??
    scopes.find(({ vendorClass, free }) => mine(vendorClass, fleet.vendorClass) && free !== 0);
  if (!scope) return null;
  const others = scope.options.filter((option) => option.code !== code && !misplaced(option));
  return [{ do: 'change', kind: 'scope', id: scope.id, set: { options: [...others, { code, type, value }] } }];
};
const mine = (vendorClass: string | undefined, own: string): boolean => vendorClass === undefined || vendorClass === own;

/** What an edit mends, by the cause; of the others somebody has to do what no edit says, such as writing a file anew. */
const mends: Partial<Record<BootCause, Mend>> = {
  'cable out': device(() => ({ cable: true })),
  'wifi not set': joined,
  'wifi name differs': joined,
  'wifi name in other letters': joined,
  'wifi security differs': joined,
  'wifi key missing': joined,
  'wifi key wrong': joined,
  'wifi key in other letters': joined,
  'option missing': toServer,
  'option under another number': toServer,
  'address where text is read': toServer,
  'text where an address is read': toServer,
  'option empty': toServer,
  'option given twice': toServer,
  'option with blanks': toServer,
  'option is no address': toServer,
  'option of another protocol': toServer,
  'server unknown': toServer,
  'server misspelt': toServer,
  'server on another port': toServer,
  'server silent': ({ servers }, words) =>
    servers
      .filter(({ address }) => address === words.server)
      .map(({ id }) => ({ do: 'change', kind: 'configServer', id, set: { reachable: true } })),
  'clock wrong': device(() => ({ clock: 'right' })),
  'time server as text': device(() => ({ clock: 'right' })),
  'file sum differs': (_, { file }) =>
    file === undefined ? null : [{ do: 'change', kind: 'configFile', id: file, set: { sha256: null } }],
};

/**
 * The edit of the estate that mends what broke a start, where one is enough; null where none is. It is how things are once somebody has
 * done it at the server or the device.
 */
export const mendOf = (facts: BootFacts, { code, words }: Pick<BootBreak, 'code' | 'words'>): Patch[] | null =>
  mends[code]?.(facts, words) ?? null;
