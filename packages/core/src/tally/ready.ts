import type { Bay, Condition, RequirementSet } from '@underpass/contracts';
import { remedyOrder, type Readiness, type RemedyStep, type Work } from '../access/index.js';
import { chooseHost } from '../hosts/index.js';
import type { CrossingRef } from '../estate/index.js';
import type { CrossingFacts, FactsReader } from '../crossing/index.js';
import { readinessOf, remedyObject } from '../crossing/requirementFacts.js';

/** A condition that keeps people from being ready. */
export interface Blocker {
  condition: string;
  name: string;
  bay: Bay;
  /** People on whose crossings it is not met. */
  people: number;
  /** People for whom it is the only one not met. */
  alone: number;
}
/** How an estate stands by a requirement set, in people. */
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

interface Tallied {
  readiness: Readiness;
  crossing: string;
  unmet: Set<string>;
  works: Set<string>;
}

/** The estate against a set, crossing by crossing: how many people are ready, what blocks most of them, and in which order to mend it. */
export class ReadinessTally {
  private readonly people = new Map<string, Tallied>();
  private readonly works = new Map<string, Work>();

  constructor(private readonly set: RequirementSet) {}

  add(ref: CrossingRef, facts: CrossingFacts): void {
    const result = readinessOf(this.set, facts);
    if (!result) return;
    const known = this.people.get(ref.person);
    const person = known ?? { readiness: 'ready' as Readiness, crossing: ref.id, unmet: new Set<string>(), works: new Set<string>() };
    if (!known) this.people.set(ref.person, person);
    if (worst[result.readiness] > worst[person.readiness]) Object.assign(person, { readiness: result.readiness, crossing: ref.id });
    for (const { state, condition } of result.conditions) {
      if (state !== 'not met') continue;
      person.unmet.add(condition.id);
      person.works.add(workFor(condition, facts, this.works));
    }
  }

  result(): EstateReadiness {
    const all = [...this.people];
    const count = (readiness: Readiness) => all.filter(([, each]) => each.readiness === readiness).length;
    const blockers = this.set.conditions.flatMap(({ id, name, bay }): Blocker[] => {
      const blocked = all.filter(([, { unmet }]) => unmet.has(id));
      return blocked.length
        ? [{ condition: id, name, bay, people: blocked.length, alone: blocked.filter(([, { unmet }]) => unmet.size === 1).length }]
        : [];
    });
    return {
      ready: count('ready'),
      fallback: count('fallback'),
      notReady: count('not ready'),
      notKnown: count('not known'),
      blockers: blockers.sort((x, y) => y.people - x.people),
      remedies: remedyOrder(new Map(all.map(([id, each]) => [id, each.works])), this.works),
      people: all
        .map(([person, { readiness, crossing, unmet }]) => ({ person, readiness, crossing, unmet: [...unmet] }))
        .sort((x, y) => worst[y.readiness] - worst[x.readiness] || (x.person < y.person ? -1 : 1)),
    };
  }
}

/** The same in one go. */
export function estateReadiness(
  reader: FactsReader,
  set: RequirementSet,
  wanted: (ref: CrossingRef) => boolean = () => true,
): EstateReadiness {
  const tally = new ReadinessTally(set);
  for (const ref of reader.model.crossings) {
    const facts = wanted(ref) ? reader.read(ref) : null;
    if (facts) tally.add(ref, facts);
  }
  return tally.result();
}

function workFor(condition: Condition, facts: CrossingFacts, works: Map<string, Work>): string {
  const object = remedyObject(condition.at, facts, chooseHost(facts.pool, facts.hosts)) ?? '?';
  const key = `${condition.id}@${object}`;
  if (!works.has(key)) works.set(key, { key, condition: condition.id, object, effortH: condition.effortH });
  return key;
}
