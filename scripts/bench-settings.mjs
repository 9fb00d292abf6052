// How fast settings are resolved: 100 000 endpoints with every setting of the catalogue, each by itself, on one core.
import { indexSettings, resolveSettings, settingKeys, definitionOf } from '../packages/core/dist/index.js';

const endpoints = 100_000;
const locations = 1000;
const groups = 40;

const valueOf = (key, n) => {
  const definition = definitionOf(key);
  switch (definition.type) {
    case 'switch':
      return n % 2 === 0;
    case 'choice':
      return definition.options[n % definition.options.length];
    case 'number':
      return definition.min + (n % Math.max(1, Math.floor(definition.max - definition.min)));
    case 'list':
      return [definition.options[n % definition.options.length]];
    case 'version':
      return '1.2';
    default:
      return '{name}';
  }
};

/** Entries at every layer: two for each setting of the organisation, some for classes, places, groups, and single endpoints. */
function entriesOf() {
  const entries = [];
  let id = 0;
  const put = (key, layer, target, n) => entries.push({ id: `s${id++}`, key, layer, target, value: valueOf(key, n), locked: n % 17 === 0 });
  settingKeys.forEach((key, n) => {
    put(key, 'organisation', '*', n);
    put(key, 'device class', n % 2 === 0 ? 'laptop' : 'thin-client', n + 1);
    put(key, 'group', `g${n % groups}`, n + 2);
    for (let i = 0; i < 20; i++) put(key, 'location', `l${(n * 31 + i * 7) % locations}`, n + i);
    for (let i = 0; i < 20; i++) put(key, 'endpoint', `e${(n * 977 + i * 4999) % endpoints}`, n + i);
  });
  return entries;
}

export function benchSettings() {
  const entries = entriesOf();
  const index = indexSettings(entries);
  const subject = (n) => ({
    deviceClass: n % 2 === 0 ? 'laptop' : 'thin-client',
    location: `l${n % locations}`,
    groups: [`g${n % groups}`, `g${(n * 7) % groups}`],
    person: `p${n}`,
    endpoint: `e${n}`,
    ownership: n % 9 === 0 ? 'personal' : 'managed',
    lineKind: 'fibre',
    metered: false,
    clientKind: 'native client',
    guest: n % 50 === 0,
    inside: n % 3 === 0,
  });
  const times = [];
  let seen = 0;
  for (let round = 0; round < 3; round++) {
    const start = performance.now();
    for (let n = 0; n < endpoints; n++) if (resolveSettings(index, subject(n))['picture.hardwareDecode']) seen++;
    times.push(performance.now() - start);
  }
  if (seen === 0) throw new Error('nothing was resolved');
  times.sort((a, b) => a - b);
  return {
    [`settings: 100 000 endpoints × ${settingKeys.length} settings from ${entries.length} entries, each by itself, ms`]: Math.round(
      times[1],
    ),
  };
}
if (import.meta.url === `file://${process.argv[1]}`) console.log(benchSettings());
