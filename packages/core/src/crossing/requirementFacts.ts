import type { Condition, Host, Layer, ObjectKind, Patch, RequirementSet, SettingValue } from '@underpass/contracts';
import { evaluateSet, applies, guestState, type FactReader, type SetResult } from '../access/index.js';
import type { SettingKey, SettingValues } from '../settings/index.js';
import { fieldsTo, settingTo } from '../change/index.js';
import { chooseHost } from '../hosts/index.js';
import { settingsOf, type CrossingFacts } from './facts.js';

const paths = new Map<string, readonly string[]>();
function pathOf(fact: string): readonly string[] {
  let known = paths.get(fact);
  if (!known) paths.set(fact, (known = fact.split('.')));
  return known;
}

/** Whoever may use a pool's hosts: everybody, or the groups that have the right. */
export const hasSignInRight = ({ pool, subject }: Pick<CrossingFacts, 'pool' | 'subject'>): boolean =>
  pool.signInGroups.length === 0 || pool.signInGroups.some((group) => subject.groups.includes(group));

/**
 * The facts of a crossing by name, for requirement sets: fields of its objects (host.release), settings in force
 * (setting.session.startOnly), versions of installed programs (host.installed.NAME), and what is worked out. Settings and host
 * are asked for only where a fact needs them: most sets are not for most crossings.
 */
export const factReaderOf =
  (facts: CrossingFacts, settings: () => SettingValues, host: () => Host | undefined): FactReader =>
  (fact) => {
    switch (fact) {
      case 'entitled':
        return facts.entitled;
      case 'visible':
        return facts.portal !== undefined;
      case 'resources':
        return facts.resources;
      case 'groups':
        return facts.subject.groups;
      case 'signInRight':
        return hasSignInRight(facts);
      case 'guestEnded':
        return facts.person.guest ? guestState(facts.person, facts.atMs) === 'ended' : undefined;
    }
    const path = pathOf(fact);
    if (path[0] === 'setting') return (settings() as unknown as Record<string, unknown>)[path.slice(1).join('.')];
    let value = rootOf(path[0] as string, facts, host);
    for (let i = 1; i < path.length; i++) {
      if (value === undefined || value === null) return undefined;
      const part = path[i] as string;
      value = Array.isArray(value) ? programIn(value, part) : (value as Record<string, unknown>)[part];
    }
    return value;
  };

function rootOf(root: string, facts: CrossingFacts, host: () => Host | undefined): unknown {
  switch (root) {
    case 'person':
      return facts.person;
    case 'endpoint':
      return facts.endpoint;
    case 'location':
      return facts.location;
    case 'line':
      return facts.line;
    case 'resource':
      return facts.resource;
    case 'pool':
      return facts.pool;
    case 'host':
      return host();
    case 'gateway':
      return facts.gateway;
    case 'publication':
      return facts.publication;
    case 'portal':
      return facts.portal;
    default:
      return undefined;
  }
}

/** The version of a program in a list such as "file-sync 24.1"; "0" where it is there without one or is not there. */
const programIn = (list: readonly unknown[], name: string): string => {
  const entry = list.find((each) => String(each).split(' ')[0] === name);
  return entry === undefined ? '0' : (String(entry).split(' ')[1] ?? '0');
};

/** The first gate that keeps the person out, with what it found; null where all are open. */
export function closedGate(
  facts: CrossingFacts,
  settings: SettingValues,
  host: Host | undefined,
): { name: string; givenUp: readonly string[]; result: SetResult } | null {
  if (facts.gates.length === 0) return null;
  const read = factReaderOf(
    facts,
    () => settings,
    () => host,
  );
  for (const set of facts.gates) {
    if (!applies(set, read)) continue;
    const result = evaluateSet(set, read);
    if (result.readiness === 'not ready') return { name: set.name, givenUp: set.givenUp, result };
  }
  return null;
}

/** The object a condition's remedy is done at, on this crossing. */
export function remedyObject(at: Condition['at'], facts: CrossingFacts, host: Host | undefined): string | undefined {
  switch (at) {
    case 'organisation':
      return '*';
    case 'host':
      return host?.id;
    case 'portal':
      return facts.portal?.id;
    default:
      return facts[at].id;
  }
}

const layers: Partial<Record<Condition['at'], Layer>> = {
  organisation: 'organisation',
  location: 'location',
  person: 'person',
  endpoint: 'endpoint',
};

/** The change that meets a condition here, where one field or setting does; null where it takes work outside. */
export function editOfCondition({ at, edit }: Condition, facts: CrossingFacts, host: Host | undefined): Patch | null {
  const id = remedyObject(at, facts, host);
  if (!edit || id === undefined) return null;
  if (edit.field !== undefined) return at === 'organisation' ? null : fieldsTo(at satisfies ObjectKind, id, { [edit.field]: edit.value });
  const layer = layers[at];
  return layer ? settingTo(edit.setting as SettingKey, layer, id, edit.value as SettingValue) : null;
}

/** One crossing against a set; null where the set is not for it. */
export function readinessOf(set: RequirementSet, facts: CrossingFacts): SetResult | null {
  const read = factReaderOf(
    facts,
    () => settingsOf(facts),
    () => chooseHost(facts.pool, facts.hosts),
  );
  return applies(set, read) ? evaluateSet(set, read) : null;
}
