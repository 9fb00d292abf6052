import type { Layer, SettingValue } from '@underpass/contracts';
import { doing, noChange, settingTo } from '../change/index.js';
import { catalogue, explainSetting, layerOrder, type SettingKey, type SettingValues } from '../settings/index.js';
import type { CrossingFacts } from './facts.js';
import type { Proposal } from './finding.js';

/** Where a setting would be written, and how that place is told. */
interface Place {
  layer: Layer;
  target: string;
  where: string;
}

/** The place whose line it is: the location, or the endpoint that has a line of its own. */
const meantFor = (facts: CrossingFacts): Place =>
  facts.location.ownLines ? onEndpoint(facts) : { layer: 'location', target: facts.location.id, where: `at ${facts.location.name}` };

/** Which entry decides a setting, and which locks it. */
type Ruled = Pick<ReturnType<typeof explainSetting>, 'deciding' | 'lockedBy'>;
const ruled = new WeakMap<SettingValues, Map<SettingKey, Ruled>>();
/** Whoever has the same settings in force, resolved from the same entries, is ruled by the same ones: remembered for all of them. */
function ruledBy({ settings, subject, resolved }: CrossingFacts, key: SettingKey): Ruled {
  if (!resolved) return explainSetting(settings, key, subject);
  let byKey = ruled.get(resolved);
  if (!byKey) ruled.set(resolved, (byKey = new Map()));
  let known = byKey.get(key);
  if (!known) byKey.set(key, (known = explainSetting(settings, key, subject)));
  return known;
}

type Remedy = [facts: CrossingFacts, key: SettingKey, value: SettingValue];

/**
 * A setting as a remedy, where it comes into force: at the place it is meant for, else, where something nearer rules there, on this
 * endpoint alone. Where a lock above keeps it as it is, the remedy says who has to open it.
 */
function setAt(place: Place, [facts, key, value]: Remedy, text: (where: string) => string, ask?: string): Proposal {
  const { deciding, lockedBy } = ruledBy(facts, key);
  if (lockedBy && layerOrder[lockedBy.layer] < layerOrder[place.layer])
    return {
      text: text(place.where),
      change: noChange,
      ask: `“${catalogue[key].label}” is locked for ${lockedBy.target === '*' ? 'the whole organisation' : `the ${lockedBy.layer} ${lockedBy.target}`}: it has to be opened there first`,
    };
  const ruled = deciding !== null && layerOrder[deciding.layer] > layerOrder[place.layer];
  const at = ruled ? onEndpoint(facts) : place;
  return { text: text(at.where), change: doing(settingTo(key, at.layer, at.target, value)), ...(ask ? { ask } : {}) };
}
const onEndpoint = ({ endpoint }: CrossingFacts): Place => ({ layer: 'endpoint', target: endpoint.id, where: 'on this endpoint' });

/**
 * A setting as a remedy at the place whose line it is, or nearer, where nearer it is ruled.
 * @param text how it is told, of where it is written
 */
export const setHere = (
  facts: CrossingFacts,
  key: SettingKey,
  value: SettingValue,
  text: (where: string) => string,
  ask?: string,
): Proposal => setAt(meantFor(facts), [facts, key, value], text, ask);

/** The same on this endpoint. */
export const setOnEndpoint = (facts: CrossingFacts, key: SettingKey, value: SettingValue, text: string, ask?: string): Proposal =>
  setAt(onEndpoint(facts), [facts, key, value], () => text, ask);

/** The same for the person, or on this endpoint, where that rules. */
export const setForPerson = (facts: CrossingFacts, key: SettingKey, value: SettingValue, text: (whom: string) => string): Proposal =>
  setAt({ layer: 'person', target: facts.person.id, where: 'for this person' }, [facts, key, value], text);
