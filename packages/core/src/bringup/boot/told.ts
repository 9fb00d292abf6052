import { utf8Text } from '../../units/text.js';
import { ipv4At } from '../../evidence/capture/index.js';
import type { BootCause } from './causes/index.js';
import { seenIn, type Lease } from './address.js';
import { placeOf, type ServerPlace } from './serverPlace.js';
import type { BootFacts } from './facts.js';
import type { Run, StepEnd } from './run.js';

/** Reads in the option of its class where its settings server is; that goes into `keep`. */
export function readOptions(run: Run, facts: BootFacts, lease: Lease, keep: (place: ServerPlace) => void): StepEnd {
  const { fleet, location, scopes, endpoint } = facts;
  if (!fleet) return { cause: 'class not described', words: { class: endpoint.deviceClass } };
  const { code, type } = fleet.serverOption;
  const said = lease.from.filter(({ option }) => option.code === code);
  const [first] = said;
  const scope = first?.scope ?? lease.from[0]?.scope ?? scopes[0];
  const words = {
    code: String(code),
    class: fleet.id,
    vendor: fleet.vendorClass,
    type,
    place: location.name,
    scope: scope?.id ?? '',
    has: '',
  };
  const broken = (cause: BootCause, has = ''): StepEnd => ({ cause, words: { ...words, has } });
  run.say('here', `reads option ${code} as ${type === 'text' ? 'text' : 'an address'}`, `device class ${fleet.id}`);
  const option = lease.told.options.find((each) => each.code === code);
  if (!first || !option) return missing(facts, lease, broken);
  run.say('here', seenIn(lease.told, code), `scope ${first.scope.id}`);
  if (said.length > 1) return broken('option given twice', utf8Text(option.bytes) ?? '');
  if (first.option.type !== type) return broken(type === 'text' ? 'address where text is read' : 'text where an address is read');
  const text = type === 'text' ? (utf8Text(option.bytes) ?? '') : option.bytes.length >= 4 ? ipv4At(option.bytes, 0) : '';
  if (text === '') return broken('option empty');
  // oxlint-disable-next-line no-control-regex
  const bare = text.replace(/^[\s\u0000]+|[\s\u0000]+$/g, '');
  if (bare === '') return broken('option empty');
  if (bare !== text) return broken('option with blanks', bare);
  const place = placeOf(text);
  if (!place) return broken('option is no address', text);
  if (place.scheme !== 'http' && place.scheme !== 'https') return broken('option of another protocol', text);
  if (/[a-z]/i.test(place.host) && !lease.told.options.some((each) => each.code === 6))
    run.note('no name server', `${text} is a name, and scope ${first.scope.id} does not say who knows names (option 6).`);
  keep(place);
  return { detail: `option ${code} of scope ${first.scope.id}: ${text}` };
}

/** Why the option is not there: it is for others, under another number, or nowhere. */
function missing({ fleet, scopes, servers }: BootFacts, lease: Lease, broken: (cause: BootCause, has?: string) => StepEnd): StepEnd {
  const code = fleet?.serverOption.code;
  const others = scopes.find((scope) => scope.options.some((option) => option.code === code));
  if (others?.vendorClass !== undefined && others.vendorClass !== fleet?.vendorClass)
    return broken('option for another class', others.vendorClass);
  const hosts = new Set(servers.map(({ address }) => placeOf(address)?.host));
  const elsewhere = lease.from.find(({ option }) => option.code >= 224 && hosts.has(placeOf(option.value.trim())?.host));
  return elsewhere ? broken('option under another number', String(elsewhere.option.code)) : broken('option missing');
}
