import { emptyEstate, Pool, Resource, type Estate, type Group, type Person, type Publication } from '@underpass/contracts';
import fc from 'fast-check';
import type { AccessEstate } from '../src/access/index.js';

/** Small estates of every shape: nested groups without loops, publications attached or not, resources in several of them. */
export const anyAccess = fc
  .record({
    groups: fc.array(
      fc.record({ rank: fc.nat(5), up: fc.array(fc.nat(7), { maxLength: 2 }), holds: fc.array(fc.nat(5), { maxLength: 3 }) }),
      { minLength: 1, maxLength: 8 },
    ),
    publications: fc.array(fc.record({ resources: fc.array(fc.nat(6), { minLength: 1, maxLength: 3 }), attached: fc.boolean() }), {
      minLength: 1,
      maxLength: 6,
    }),
    people: fc.array(fc.array(fc.nat(7), { maxLength: 3 }), { minLength: 1, maxLength: 8 }),
  })
  .map(({ groups, publications, people }): Estate => {
    const group = groups.map(({ rank, up, holds }, i): Group => ({
      id: `g${i}`,
      name: `g${i}`,
      rank,
      // upwards only, so that there is no loop
      memberOf: [...new Set(up.filter((n) => n < i))].map((n) => `g${n}`),
      publications: [...new Set(holds.filter((n) => n < publications.length))].map((n) => `p${n}`),
    }));
    return {
      ...emptyEstate(),
      group,
      publication: publications.map(({ resources, attached }, i): Publication => ({
        id: `p${i}`,
        name: `p${i}`,
        kind: 'apps',
        pool: 'pool',
        resources: [...new Set(resources)].map((n) => `r${n}`),
        portals: attached ? ['portal'] : [],
      })),
      person: people.map((of, i): Person => ({
        id: `u${i}`,
        name: `u${i}`,
        kind: 'staff',
        location: 'l',
        groups: [...new Set(of.filter((n) => n < group.length))].map((n) => `g${n}`),
      })),
      resource: Array.from({ length: 7 }, (_, i) =>
        Resource.parse({ id: `r${i}`, name: `r${i}`, kind: 'app', pool: 'pool', work: 'office', content: { text: 1 } }),
      ),
      pool: [Pool.parse({ id: 'pool', name: 'Pool', gateway: 'gateway', securityModes: ['tls'] })],
      portal: [{ id: 'portal', name: 'Portal', gateway: 'gateway', address: 'portal.example' }],
    };
  });

/** Reads who sees what the slow, obvious way: every pair of facts until nothing new follows. */
export function plainly({ person, group, publication }: AccessEstate, id: string): string[] {
  const inGroup = new Set(person.find((each) => each.id === id)?.groups);
  for (let size = -1; size !== inGroup.size;)
    for (const each of ((size = inGroup.size), group)) if (inGroup.has(each.id)) for (const up of each.memberOf) inGroup.add(up);
  const holds = group.filter((each) => inGroup.has(each.id)).flatMap((each) => each.publications);
  return [
    ...new Set(publication.filter((each) => holds.includes(each.id) && each.portals.length > 0).flatMap((each) => each.resources)),
  ].sort();
}
