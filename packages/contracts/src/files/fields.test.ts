import { describe, expect, test } from '@jest/globals';
import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import {
  factNames,
  fieldsOf,
  formOf,
  formSchemaOf,
  keyOfName,
  kindOrder,
  objectOf,
  objectSchemas,
  readFolder,
  schemaWords,
  type ObjectKind,
} from '../index.js';

const folder = new URL('../../../../demo/saltmarsh', import.meta.url).pathname;
const { estate } = readFolder(new Map(readdirSync(folder).map((name) => [name, readFileSync(join(folder, name), 'utf8')])));
const fieldOf = (kind: ObjectKind, name: string) => {
  const field = fieldsOf(kind).find((each) => each.name === name);
  if (!field) throw new Error(`${kind} has no field ${name}`);
  return field;
};

describe('the fields of a form', () => {
  // what a setting's value means is known to the catalogue alone; its form is tested with it
  test.each(kindOrder.filter((kind) => kind !== 'setting'))('every %s of the demo goes through its form unchanged', (kind) => {
    const fields = fieldsOf(kind);
    for (const object of estate[kind]) {
      const { object: read, faults } = objectOf(fields, formOf(fields, object));
      expect(faults).toEqual([]);
      expect(objectSchemas[kind].parse(read)).toEqual(object);
    }
  });

  test('say what they name, their bounds and their rows', () => {
    expect(fieldOf('endpoint', 'location')).toMatchObject({ shape: 'one', type: 'named', kind: 'location', required: true });
    expect(fieldOf('endpoint', 'users')).toMatchObject({ shape: 'list', type: 'named', kind: 'person' });
    expect(fieldOf('endpoint', 'wifiSignalDbm')).toMatchObject({ type: 'number', min: -110, max: 0 });
    // a rate of 0 is none
    expect(fieldOf('location', 'downMbps')).toMatchObject({ above: 0, max: 400_000 });
    expect(fieldOf('location', 'downMbps').min).toBeUndefined();
    expect(fieldOf('endpoint', 'line.lineKind')).toMatchObject({ required: false, neededInside: true });
    expect(fieldOf('location', 'worksFrom').type).toBe('time of day');
    expect(fieldOf('endpoint', 'screens').row?.map(({ name, type }) => `${name} ${type}`)).toEqual([
      'name text',
      'widthPx number',
      'heightPx number',
      'refreshHz number',
      'scale number',
      'port word',
      'adapter word',
      'cable word',
      'input word',
      'x number',
      'y number',
      'turned number',
      'primary yes or no',
      'mirrors yes or no',
      'widthMm number',
      'heightMm number',
    ]);
    expect(fieldOf('resource', 'content').row?.map(({ name, type }) => `${name} ${type}`)).toEqual(['part word', 'value number']);
  });

  test('no decoders is another thing than not knowing them', () => {
    const field = fieldOf('endpoint', 'decoders');
    expect([field.write(undefined), field.write([])]).toEqual([[], 'none']);
    expect([field.read([]), field.read('none')]).toEqual([undefined, []]);
    expect(fieldOf('endpoint', 'screens').none).toBeUndefined();
  });

  test('what cannot be read is told at its row and field; empty rows are no rows', () => {
    const screens = fieldsOf('endpoint').filter(({ name }) => name === 'screens');
    const row = { widthPx: '1920', heightPx: '1080' };
    expect(objectOf(screens, { screens: [{ widthPx: ' ', heightPx: '' }, row, { widthPx: 'wide', heightPx: '1' }] }).faults).toEqual([
      { path: ['screens', '2', 'widthPx'], problem: '“wide” is not a number' },
    ]);
    expect(objectOf(screens, { screens: [{ widthPx: '' }, row] }).object).toEqual({ screens: [{ widthPx: 1920, heightPx: 1080 }] });
  });

  test('a part stands once, and has a name and a value', () => {
    const content = fieldsOf('resource').filter(({ name }) => name === 'content');
    const faults = (...rows: Record<string, string>[]) => objectOf(content, { content: rows }).faults;
    expect(faults({ part: 'text', value: '0.5' }, { part: 'text', value: '0.5' })).toEqual([
      { path: ['content', '1', 'part'], problem: '“text” stands twice' },
    ]);
    expect(faults({ part: '', value: '0.5' })).toEqual([{ path: ['content', '0', 'part'], problem: 'must say which part' }]);
    expect(faults({ part: 'text', value: '' })).toEqual([{ path: ['content', '0', 'value'], problem: 'must not be empty' }]);
    expect(objectOf(content, { content: [{ part: 'text', value: '1' }] }).object).toEqual({ content: { text: 1 } });
  });

  test('a part of an object that nothing is written of is not there', () => {
    const fields = fieldsOf('endpoint');
    const first = estate.endpoint.find(({ line }) => line === undefined);
    expect(objectOf(fields, formOf(fields, first as object)).object).not.toHaveProperty('line');
  });
});

test('the schema of a form tells all faults at their places, and passes what stands', () => {
  const schema = formSchemaOf('location');
  const told = (form: object) => schema.safeParse(form).error?.issues.map(({ path, message }) => `${path.join('.')}: ${message}`);
  const good = { id: 'a', name: 'A', kind: 'office', latitude: '1', longitude: '2', lineKind: 'fibre' };
  expect(schema.parse(good)).toMatchObject({ latitude: 1, timeZone: 'UTC', metered: false });
  expect(told({ ...good, latitude: 'north', downMbps: '-4' })).toEqual(['latitude: “north” is not a number']);
  expect(told({ ...good, downMbps: '-4' })).toEqual(['downMbps: must be above 0']);
  expect(told({ ...good, latitude: ' ' })).toEqual(['latitude: is missing']);
  expect(told({ ...good, kind: ' ' })).toEqual([expect.stringMatching(/^kind: must be one of office/)]);
});

test('a key is made of a name', () => {
  expect(['Old Hithe (north)', ' Ärmelkanal 3 ', '—', 'x'.repeat(80)].map(keyOfName)).toEqual([
    'old-hithe-north',
    'armelkanal-3',
    '',
    'x'.repeat(64),
  ]);
});

test('the words of a schema are its fields and values, each once', () => {
  const words = schemaWords('requirement').map(({ word }) => word);
  expect(words).toEqual(expect.arrayContaining(['conditions', 'when', 'atLeast', 'Gateway', 'endpoint', 'effortH']));
  expect(new Set(words).size).toBe(words.length);
  expect(factNames()).toEqual(expect.arrayContaining(['host.release', 'endpoint.clientVersion', 'entitled']));
});
