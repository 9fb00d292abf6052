// How fast who-sees-what, why-not, acceptance and readiness are on a large estate: 10 000 people, 200 nested groups, 300 resources.
import { withShippedSets } from '../packages/contracts/dist/requirements/shipped.js';
import {
  acceptancePlan,
  AccessIndex,
  consequenceOf,
  doing,
  estateReadiness,
  FactsReader,
  modelOf,
  overlay,
  readHar,
  shippedRules,
  whyNotSeen,
} from '../packages/core/dist/index.js';
import { emptyEstate } from '../packages/contracts/dist/index.js';

/** Repeatable numbers, so that every run asks the same. */
function sequence(seed) {
  let state = seed;
  return (below) => {
    state = (state * 1103515245 + 12345) % 2147483648;
    return state % below;
  };
}

export function accessEstate(people = 10_000, groups = 200, resources = 300) {
  const next = sequence(7);
  const some = (n, from, prefix) => [...new Set(Array.from({ length: n }, () => `${prefix}${next(from)}`))];
  return {
    ...emptyEstate(),
    pool: [
      {
        id: 'pool',
        name: 'Pool',
        gateway: 'gateway',
        placement: 'spread',
        securityModes: ['tls'],
        clientFloors: {},
        managedOnly: false,
        spareHosts: 0,
        signIn: ['own directory'],
        signInGroups: [],
      },
    ],
    portal: [{ id: 'portal', name: 'Portal', gateway: 'gateway', address: 'portal.example' }],
    resource: Array.from({ length: resources }, (_, i) => ({
      id: `r${i}`,
      name: `Resource ${i}`,
      kind: 'app',
      pool: 'pool',
      work: 'office',
      content: { text: 1 },
      graphics: false,
      calls: false,
      camera: false,
      deliveredMB: 0,
    })),
    publication: Array.from({ length: 150 }, (_, i) => ({
      id: `p${i}`,
      name: `Publication ${i}`,
      kind: 'apps',
      pool: 'pool',
      resources: [`r${2 * i}`, `r${2 * i + 1}`],
      portals: i % 25 === 24 ? [] : ['portal'],
    })),
    group: Array.from({ length: groups }, (_, i) => ({
      id: `g${i}`,
      name: `Group ${i}`,
      rank: i % 20,
      memberOf: i > 20 ? some(1, i, 'g') : [],
      publications: some(3, 150, 'p'),
    })),
    person: Array.from({ length: people }, (_, i) => ({
      id: `u${i}`,
      name: `Person ${i}`,
      kind: 'staff',
      location: 'l',
      groups: some(1 + next(5), groups, 'g'),
    })),
  };
}

const timed = (body) => {
  const times = Array.from({ length: 5 }, () => {
    const start = performance.now();
    body();
    return performance.now() - start;
  }).sort((a, b) => a - b);
  return Math.round(times[2]);
};

export function benchAccess(demo) {
  const estate = accessEstate();
  const model = modelOf(estate, []);
  const index = model.access;
  const missing = estate.person.slice(0, 4).flatMap(({ id }) => ['r1', 'r49', 'r299'].map((resource) => [id, resource]));
  const start = Date.parse('2026-11-25T08:00:00Z');
  const har = {
    log: {
      entries: Array.from({ length: 50_000 }, (_, i) => ({
        startedDateTime: new Date(start + i * 3).toISOString(),
        time: 40,
        request: { method: 'GET', url: `https://portal.example/a/resources/${i}?x=1` },
        response: { status: 200 },
        timings: { dns: -1, connect: -1, ssl: -1 },
      })),
    },
  };
  const reader = new FactsReader(modelOf(withShippedSets(demo.estate), demo.measurements), start);
  return {
    'access: 10 000 people, 200 groups, 300 resources resolved, ms': timed(() => {
      const fresh = AccessIndex.of(estate);
      for (const person of estate.person) fresh.of(person.groups);
    }),
    'access: acceptance plan of the same, ms': timed(() => acceptancePlan(index)),
    'access: one "why not" on the same, ms':
      Math.round((timed(() => missing.forEach(([person, resource]) => whyNotSeen(model, person, resource))) / missing.length) * 10) / 10,
    'access: everybody of the same moved into a group, on paper, ms': timed(() => {
      const people = estate.person.map(({ id }) => id);
      consequenceOf(model, overlay(model, doing({ do: 'move', people, leave: null, join: estate.group[0].id }), 0));
    }),
    'access: three requirement sets on the demo estate, ms': timed(() =>
      reader.model.estate.requirement.forEach((set) => estateReadiness(reader, set)),
    ),
    'sign-on: recording of 50 000 requests read, ms': timed(() => readHar(har, shippedRules)),
  };
}
