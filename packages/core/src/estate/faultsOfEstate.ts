import type { Estate, ObjectKind } from '@underpass/contracts';
import { factsIn, groupLoop } from '../access/index.js';
import { definitionOf } from '../settings/index.js';

/** Something that no single object has wrong, but their whole: at an object’s field. */
export interface EstateFault {
  kind: ObjectKind;
  id: string;
  field: string;
  problem: string;
  expected: string;
}

/** What no object shows by itself: groups in a loop, publications of mixed pools or kinds, guests' records, unknown settings. */
export function faultsOfEstate(
  estate: Pick<Estate, 'group' | 'publication' | 'resource' | 'pool' | 'person' | 'requirement'>,
): EstateFault[] {
  const faults: EstateFault[] = [];
  const loop = groupLoop(estate.group);
  if (loop)
    faults.push({
      kind: 'group',
      id: loop[0] as string,
      field: 'memberOf',
      problem: `the groups go round in a loop: ${loop.join(' in ')}`,
      expected: 'groups that are not members of themselves',
    });
  const resources = new Map(estate.resource.map((resource) => [resource.id, resource]));
  for (const publication of estate.publication)
    for (const id of publication.resources) {
      const resource = resources.get(id);
      if (!resource) continue;
      const wrong = (problem: string, expected: string) =>
        faults.push({ kind: 'publication', id: publication.id, field: 'resources', problem, expected });
      if (resource.pool !== publication.pool)
        wrong(`“${id}” is of the pool ${resource.pool}, the publication of ${publication.pool}`, 'resources of the publication’s pool');
      if ((resource.kind === 'desktop') !== (publication.kind === 'desktop'))
        wrong(
          `“${id}” is ${resource.kind === 'desktop' ? 'a desktop' : 'an application'} in a publication of ${publication.kind === 'desktop' ? 'desktops' : 'applications'}`,
          'all desktops or all applications',
        );
    }
  const groups = new Set(estate.group.map(({ id }) => id));
  for (const pool of estate.pool)
    for (const id of pool.signInGroups)
      if (!groups.has(id))
        faults.push({
          kind: 'pool',
          id: pool.id,
          field: 'signInGroups',
          problem: `no group has the id “${id}”`,
          expected: 'an id that stands in groups.csv',
        });
  for (const person of estate.person)
    if (person.guest && person.kind !== 'guest')
      faults.push({
        kind: 'person',
        id: person.id,
        field: 'guest',
        problem: `is filled in although ${person.name} is ${person.kind}`,
        expected: 'a guest’s record for guests only',
      });
  for (const set of estate.requirement)
    for (const [field, facts] of [
      ['appliesTo', factsIn(set.appliesTo)],
      ...set.conditions.map((each, i) => [
        `conditions.${i}`,
        [...factsIn(each.when), ...each.alternatives.flatMap(({ when }) => factsIn(when))],
      ]),
    ] as [string, string[]][]) {
      const wrong = facts.find((fact) => fact.startsWith('setting.') && !definitionOf(fact.slice('setting.'.length)));
      if (wrong)
        faults.push({
          kind: 'requirement',
          id: set.id,
          field,
          problem: `no setting is called ${wrong.slice(8)}`,
          expected: 'a key of the settings’ catalogue',
        });
    }
  return faults;
}
