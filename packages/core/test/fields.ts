import { columnsOf, objectKinds, objectSchemas, referencesOf, type Estate, type ObjectKind } from '@underpass/contracts';
import { faultOfSetting } from '../src/settings/index.js';
import { fieldAt, withField } from '../src/change/index.js';

type Named = { id: string };
const same = (a: unknown, b: unknown) => JSON.stringify(a) === JSON.stringify(b);

interface Field {
  path: string;
  type: string;
  options: readonly string[];
}
const known = new Map<ObjectKind, Field[]>();
/** The fields of a kind, found once. Requirement sets are nested without end, so theirs are the fields at the top. */
function fieldsOf(kind: ObjectKind): Field[] {
  const before = known.get(kind);
  if (before) return before;
  const fields =
    kind === 'requirement'
      ? Object.keys(objectSchemas.requirement.shape).map((path) => ({ path, type: 'structured', options: [] }))
      : columnsOf(objectSchemas[kind] as never).map(({ name, type, options }) => ({ path: name, type, options }));
  known.set(kind, fields);
  return fields;
}

/** Every field of every kind by path, as files and forms know them. */
export const everyField: { kind: ObjectKind; path: string }[] = objectKinds.flatMap((kind) =>
  fieldsOf(kind).flatMap(({ path }) => (path === 'id' ? [] : [{ kind, path }])),
);

/** Values that a field could have instead: what others of its kind have, every word it may be, and not being there. */
function others(estate: Estate, kind: ObjectKind, path: string, object: Named): unknown[] {
  const column = fieldsOf(kind).find((each) => each.path === path)!;
  const now = fieldAt(object, path);
  const found = (estate[kind] as Named[]).map((each) => fieldAt(each, path));
  const made: unknown[] =
    column.type === 'enum'
      ? [...column.options]
      : column.type === 'boolean'
        ? [true, false]
        : typeof now === 'number'
          ? [now * 1.5, Math.round(now / 3), now + 1]
          : column.type === 'number'
            ? [1, 20, 300]
            : column.type === 'list'
              ? [[], column.options.slice(0, 1), column.options.slice(0, 2), Array.isArray(now) ? now.slice(1) : []]
              : [];
  const written: Record<string, unknown[]> = {
    'endpoint.screensAt': ['2026-11-24T08:00:00Z'],
    'endpoint.decodersAt': ['2026-11-24T08:00:00Z'],
    'endpoint.reportedAt': ['2026-11-24T08:00:00Z'],
    'endpoint.mostPixels': [921_600, 2_073_600, 4_147_200],
    'endpoint.screens': [
      [
        { widthPx: 3840, heightPx: 2160, scale: 1, port: 'dp-hbr2', cable: 'dp-hbr', x: 0, y: 0, primary: true },
        { widthPx: 1920, heightPx: 1080, scale: 1, port: 'dp-hbr2', mirrors: true },
        { widthPx: 1920, heightPx: 1200, scale: 1, port: 'hdmi-2.0', adapter: 'dvi', turned: 90, x: 3840, y: 0 },
      ],
    ],
    'recipe.steps': [[{ id: 'other', name: 'Other', check: 'group', group: 'others' }]],
    'endpoint.clock': ['wrong', '7200'],
    'endpoint.firmware': ['4.1.0'],
    'firmware.version': ['4.1.0'],
    'firmware.sha256': ['0'.repeat(64)],
    'configFile.sha256': ['0'.repeat(64)],
    'scope.server': ['192.0.2.77'],
    'organisation.thresholds': [{ office: { keyToPixelMs: 40, framesAtLeast: 50, usableWithinS: 5 } }],
    'organisation.assumed': [{ 'people/activeHigh': 1, 'line/dsl/lossHighPercent': 20 }, { 'host/drawMs': 60 }],
    'organisation.worksFrom': ['00:30', '17:00'],
    'organisation.worksTo': ['21:15', '08:00'],
    'organisation.signonRules': [[{ step: 'password', host: 'a.example' }]],
    'person.guest.country': ['NO'],
    'location.addressRange': ['192.0.2.0/24'],
    'region.timeZone': ['Europe/Oslo', 'UTC'],
    'location.timeZone': ['America/Lima', 'Asia/Tokyo'],
    'location.worksFrom': ['00:30', '17:00'],
    'location.worksTo': ['21:15', '08:00'],
    'gateway.certificate.notAfter': ['2026-11-26', '2026-11-24'],
    'gateway.certificate.notBefore': ['2026-11-26', '2026-11-24'],
    'setting.value': [15, 1080, true, false, 'hevc', ['camera']],
    'resource.onlyApp': ['Ticket counter'],
    'requirement.breaks': ['signed in'],
  };
  const words =
    column.type === 'text' ? ['Another name', 'other.example', ...(written[`${kind}.${path}`] ?? [])] : (written[`${kind}.${path}`] ?? []);
  const seen = new Set<string>();
  return [...words, ...made, ...found, undefined].filter((value) => {
    const key = JSON.stringify(value) ?? '';
    return !same(value, now) && !seen.has(key) && seen.add(key);
  });
}

/** Objects with the field changed to something that would be accepted, in an order that differs from run to run with the seed. */
export function changesOf(
  estate: Estate,
  kind: ObjectKind,
  path: string,
  pick: (n: number) => number,
  most: number,
  objects: readonly Named[] = estate[kind],
): { id: string; set: Record<string, unknown> }[] {
  const exists = (to: ObjectKind, id: string) => (estate[to] as Named[]).some((each) => each.id === id);
  const found: { id: string; set: Record<string, unknown> }[] = [];
  for (let tries = 0; tries < 800 && found.length < most; tries++) {
    const object = objects[pick(objects.length)];
    if (!object) break;
    const values = others(estate, kind, path, object);
    const value = values[pick(values.length)];
    const set: Record<string, unknown> = { [path]: value ?? null };
    // a layer and what it is for go together
    if ((kind === 'setting' || kind === 'configFile') && path === 'layer')
      set.target = value === 'organisation' ? '*' : value === 'device class' ? 'thin-client' : 'none';
    let next: object = object;
    for (const [field, other] of Object.entries(set)) next = withField(next, field, other);
    const after = objectSchemas[kind].safeParse(next);
    if (!after.success) continue;
    if (referencesOf(kind, after.data).some(({ to, id }) => !exists(to, id))) continue;
    if (kind === 'setting' && faultOfSetting(kind, after.data)) continue;
    found.push({ id: object.id, set });
  }
  return found;
}
