import { doing, fieldsTo } from '../../../change/index.js';
import { catalogue, definitionOf, ignorableKeys, obeys, type SettingKey, type SettingValues } from '../../../settings/index.js';
import { cost, type FindingKind } from '../../finding.js';

const known = new WeakMap<SettingValues, readonly SettingKey[]>();
/** Of those that some device does not follow the ones that are not at their default; whoever has the same settings shares them. */
function setAtAll(settings: SettingValues): readonly SettingKey[] {
  let set = known.get(settings);
  if (!set) known.set(settings, (set = ignorableKeys.filter((key) => settings[key] !== catalogue[key].default)));
  return set;
}

/** A setting is meant to do something here, and the kind of client does not follow it. */
export const settingIgnored: FindingKind = {
  kind: 'set, but this client ignores it',
  bay: 'Endpoint',
  weight: 'risk',
  detect: ({ endpoint }, { settings }) => {
    const { clientKind } = endpoint;
    const set = setAtAll(settings);
    if (set.length === 0) return null;
    const ignored = set.filter((key) => !obeys(key, endpoint));
    if (ignored.length === 0) return null;
    // by the kind of client, or by what the device is
    const isKind = ignored.every((key) => definitionOf(key)?.ignoredBy?.includes(clientKind));
    const who = isKind ? `a ${clientKind}` : 'this device';
    const names = ignored.map((key) => `“${catalogue[key].label}”`).join(' and ');
    return {
      text: `${names} ${ignored.length === 1 ? 'is set, and' : 'are set, and'} ${who} ignores ${ignored.length === 1 ? 'it' : 'them'}`,
      cost: cost.risk + 2 * ignored.length,
      costText: 'no effect',
      sure: 'likely',
      evidence: () => ignored.map((key) => ({ source: 'assumed' as const, text: `${who} does not follow ${key}; common practice` })),
      remedies: () =>
        endpoint.platform === 'thin' || !isKind
          ? []
          : [{ text: 'Use the native client', change: doing(fieldsTo('endpoint', endpoint.id, { clientKind: 'native client' })) }],
    };
  },
};
