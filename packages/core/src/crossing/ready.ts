import type { Bay, Condition, RequirementSet } from '@underpass/contracts';
import { applies, evaluateSet, remedyOrder, type Readiness, type RemedyStep, type SetResult, type Work } from '../access/index.js';
import { chooseHost } from '../hosts/index.js';
import type { CrossingRef } from '../estate/index.js';
import { settingsOf, type CrossingFacts } from './facts.js';
import type { FactsReader } from './factsFor.js';
import { factReaderOf, remedyObject } from './requirementFacts.js';

/** One crossing against a set; null where the set is not for it. */
export function readinessOf(set: RequirementSet, facts: CrossingFacts): SetResult | null {
  const host = chooseHost(facts.pool, facts.hosts);
  const read = factReaderOf(facts, settingsOf(facts), host);
  return applies(set, read) ? evaluateSet(set, read) : null;
}

export interface Blocker {
  condition: string;
  name: string;
  bay: Bay;
  /** People on whose crossings it is not met. */
  people: number;
  /** People for whom it is the only one not met. */
  alone: number;
}
export interface EstateReadiness {
  /** People, each counted at the worst of the crossings the set is for. */
  ready: number;
  fallback: number;
  notReady: number;
  notKnown: number;
  blockers: Blocker[];
  remedies: RemedyStep[];
  people: { person: string; readiness: Readiness; crossing: string; unmet: string[] }[];
}

const worst: Record<Readiness, number> = { 'not ready': 3, 'not known': 2, fallback: 1, ready: 0 };

/** The estate against a set: how many people are ready, what blocks most of them, and in which order to mend it. */
export function estateReadiness(
  reader: FactsReader,
  set: RequirementSet,
  wanted: (ref: CrossingRef) => boolean = () => true,
): EstateReadiness {
  const people = new Map<string, { readiness: Readiness; crossing: string; unmet: Set<string>; works: Set<string> }>();
  const works = new Map<string, Work>();
  for (const ref of reader.model.crossings) {
    if (!wanted(ref)) continue;
    const facts = reader.read(ref);
    const result = facts && readinessOf(set, facts);
    if (!facts || !result) continue;
    const known = people.get(ref.person);
    const unmet = result.conditions.filter(({ state }) => state === 'not met').map(({ condition }) => condition);
    const person = known ?? { readiness: 'ready' as Readiness, crossing: ref.id, unmet: new Set<string>(), works: new Set<string>() };
    if (!known) people.set(ref.person, person);
    if (worst[result.readiness] > worst[person.readiness]) Object.assign(person, { readiness: result.readiness, crossing: ref.id });
    for (const condition of unmet) {
      person.unmet.add(condition.id);
      person.works.add(workFor(condition, facts, works));
    }
  }
  const count = (readiness: Readiness) => [...people.values()].filter((each) => each.readiness === readiness).length;
  const blockers = set.conditions.flatMap(({ id, name, bay }): Blocker[] => {
    const blocked = [...people.values()].filter(({ unmet }) => unmet.has(id));
    return blocked.length
      ? [{ condition: id, name, bay, people: blocked.length, alone: blocked.filter(({ unmet }) => unmet.size === 1).length }]
      : [];
  });
  return {
    ready: count('ready'),
    fallback: count('fallback'),
    notReady: count('not ready'),
    notKnown: count('not known'),
    blockers: blockers.sort((a, b) => b.people - a.people),
    remedies: remedyOrder(new Map([...people].map(([id, each]) => [id, each.works])), works),
    people: [...people]
      .map(([person, { readiness, crossing, unmet }]) => ({ person, readiness, crossing, unmet: [...unmet] }))
      .sort((a, b) => worst[b.readiness] - worst[a.readiness] || (a.person < b.person ? -1 : 1)),
  };
}

function workFor(condition: Condition, facts: CrossingFacts, works: Map<string, Work>): string {
  const object = remedyObject(condition.at, facts, chooseHost(facts.pool, facts.hosts)) ?? '?';
  const key = `${condition.id}@${object}`;
  if (!works.has(key)) works.set(key, { key, condition: condition.id, object, effortH: condition.effortH });
  return key;
}
