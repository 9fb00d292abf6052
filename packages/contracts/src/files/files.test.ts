import { describe, expect, test } from '@jest/globals';
import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import fc from 'fast-check';
import { Endpoint, Group, jsonSchemas, Portal, readFolder, writeFolder } from '../index.js';
import { Instant } from '../estate/fields.js';
import { readTable, writeTable } from './table.js';
import type { FileProblem } from './problem.js';

const folder = new URL('../../../../demo/saltmarsh', import.meta.url).pathname;
const demo = () => new Map(readdirSync(folder).map((name) => [name, readFileSync(join(folder, name), 'utf8')]));

describe('an estate folder', () => {
  test('written and read again is the same estate', () => {
    const first = readFolder(demo());
    const again = readFolder(writeFolder(first.estate, first.measurements));
    expect(again.problems).toEqual([]);
    expect(again.estate).toEqual(first.estate);
    expect(again.measurements).toEqual(first.measurements);
  });

  test('tells file, line, field, what is wrong and what would be right, and skips nothing silently', () => {
    const files = demo();
    files.set(
      'people.csv',
      'id,name,kind,location,groups,shoes\nP1,Ann Example,staff,head-office,all-staff,\nP1,Twice,staff,head-office,,\nP2,"Quoted, name",casual,head-office,,\nP3,Nowhere,staff,atlantis,,\n,No Id,staff,head-office,,\n',
    );
    files.set('regions.yaml', '- id: estuary\n  name: Estuary\n  latitude: 155\n  longitude: 3\n');
    files.set('shoes.csv', 'id\n1\n');
    const { estate, problems } = readFolder(files);
    const found = problems.map(({ file, line, field }) => `${file}:${line}:${field}`);
    expect(found).toEqual(
      expect.arrayContaining([
        'people.csv:1:shoes',
        'people.csv:3:id',
        'people.csv:4:kind',
        'people.csv:5:location',
        'people.csv:6:id',
        'regions.yaml:3:latitude',
        'shoes.csv:1:',
      ]),
    );
    expect(estate.person.map((person) => person.id)).toEqual(['P1']);
    for (const problem of problems) expect([problem.problem, problem.expected].every((text) => text.length > 3)).toBe(true);
    // what leans on a region that is not read is rejected too, not read as if nothing were wrong
    expect(found).toEqual(expect.arrayContaining([expect.stringMatching(/^gateways\.yaml:\d+:region$/)]));
  });

  test('broken YAML, a list that is none, and a byte-order mark are told or taken, never a crash', () => {
    const at = (text: string) => readFolder(new Map([['pools.yaml', text]])).problems;
    expect(at('- id: [unclosed\n')[0]).toMatchObject({ file: 'pools.yaml', line: expect.any(Number) });
    expect(at('id: alone\n')[0]).toMatchObject({ problem: 'is not a list' });
    const problems: FileProblem[] = [];
    expect(readTable('x.csv', '\uFEFFid,name,rank\r\ng,"A ""quoted"" name",1\r\n', Group, problems)).toMatchObject([
      { value: { id: 'g', name: 'A "quoted" name' }, line: 2 },
    ]);
    expect(problems).toEqual([]);
  });

  test('line numbers stay right behind a quoted cell with line breaks', () => {
    const { problems } = readFolder(new Map([['groups.csv', 'id,name,rank\na,"two\nlines",1\nb,Next,x\n']]));
    expect(problems.map(({ line, field }) => [line, field])).toEqual([[4, 'rank']]);
  });
});

test('whether a cable is plugged in is taken in the words people have for it, and nothing else', () => {
  const read = (cell: string) => {
    const csv = `id,name,location,deviceClass,ownership,platform,processor,clientKind,cable\nT,T,head-office,thin-client,managed,thin,x86-64,browser,${cell}\n`;
    const { estate, problems } = readFolder(new Map([['endpoints.csv', csv]]), { location: new Set(['head-office']) });
    return problems[0]?.problem ?? estate.endpoint[0]?.cable;
  };
  expect(['yes', 'in', 'Plugged in', 'no', 'out', 'unplugged', ''].map(read)).toEqual([true, true, true, false, false, false, undefined]);
  expect(read('perhaps')).toBe('“perhaps” is neither yes nor no');
});

test('any endpoint goes through CSV unchanged', () => {
  const text = fc
    .string({ minLength: 1, maxLength: 20 })
    .map((s) => s.trim())
    .filter((s) => s.length > 0);
  const endpoint = fc.record(
    {
      id: fc.stringMatching(/^[A-Za-z0-9][A-Za-z0-9._-]{0,20}$/),
      name: text,
      location: fc.constant('here'),
      deviceClass: fc.constantFrom('laptop', 'thin-client'),
      ownership: fc.constantFrom('managed', 'personal'),
      platform: fc.constant('desktop'),
      processor: fc.constant('x86-64'),
      clientKind: fc.constantFrom('browser', 'native client'),
      screens: fc.array(
        fc.record(
          {
            widthPx: fc.integer({ min: 320, max: 8000 }),
            heightPx: fc.integer({ min: 240, max: 8000 }),
            refreshHz: fc.integer({ min: 1, max: 240 }),
            scale: fc.constantFrom(1, 1.25, 1.5),
            port: fc.constantFrom('dvi', 'dp-hbr2'),
            x: fc.integer({ min: -9000, max: 9000 }),
            y: fc.integer({ min: -9000, max: 9000 }),
          },
          { requiredKeys: ['widthPx', 'heightPx', 'x', 'y'] },
        ),
        { minLength: 1, maxLength: 3 },
      ),
      decoders: fc.array(
        fc.record({ codec: fc.constantFrom('h264', 'av1'), level: fc.constantFrom('4', '5.1'), chroma444: fc.boolean() }),
        { maxLength: 3 },
      ),
      alwaysOn: fc.boolean(),
    },
    { requiredKeys: ['id', 'name', 'location', 'deviceClass', 'ownership', 'platform', 'processor', 'clientKind'] },
  );
  fc.assert(
    fc.property(fc.uniqueArray(endpoint, { selector: (e) => e.id, minLength: 1, maxLength: 5 }), (list) => {
      const whole = list.map((e) => Endpoint.parse(e));
      const problems: FileProblem[] = [];
      const again = readTable('endpoints.csv', writeTable(Endpoint, whole), Endpoint, problems);
      expect(problems).toEqual([]);
      expect(again.map(({ value }) => value)).toEqual(whole);
    }),
    { numRuns: 60 },
  );
});

test('every file of a folder has a JSON Schema, generated from the one definition', () => {
  const all = jsonSchemas();
  expect(Object.keys(all)).toContain('endpoints.csv');
  expect(JSON.stringify(all['locations.csv'])).toContain('geo-satellite');
});

test('the JSON Schema in docs is fresh', () => {
  const kept = JSON.parse(readFileSync(new URL('../../../../docs/estate-files.schema.json', import.meta.url), 'utf8')) as object;
  // written anew by node scripts/write-schemas.mjs
  expect(JSON.parse(JSON.stringify(jsonSchemas()))).toEqual(kept);
});

test('what a schema says is wrong is told in words, with the choices as a list', () => {
  const { problems } = readFolder(new Map([['pools.yaml', '- id: x\n  name: X\n  gateway: g\n  signIn: [kitchen]\n']]));
  const said = problems.map(({ field, problem }) => `${field} ${problem}`).join('; ');
  expect(said).toMatch(/signIn\.0 must be one of [a-z ]+, [a-z ]+/);
  expect(said).not.toMatch(/Invalid|expected one of|\|/);
});

describe('texts made to harm', () => {
  const said = (file: string, text: string) =>
    readFolder(new Map([[file, text]])).problems.map(({ line, field, problem }) => `${line}:${field}: ${problem}`);
  const pool = '- id: x\n  name: X\n  gateway: g\n  securityModes: [tls]\n';

  test('a field nobody knows is told at its own line, in tables and in documents', () => {
    expect(said('pools.yaml', `${pool}  placemnet: spread\n`)).toContain('5:placemnet: is not a field here');
    expect(said('gateways.yaml', '- id: g\n  certificate:\n    names: [a.example]\n    nmaes: [b.example]\n')).toContain(
      '4:certificate.nmaes: is not a field here',
    );
    expect(said('groups.csv', 'id,name,rnak\ng,G,1\n')).toContain('1:rnak: is not a known column');
  });

  test('anchors, aliases and fields that stand twice are refused where they stand', () => {
    expect(said('pools.yaml', '- &a {id: x}\n- *a\n')).toEqual(['1:: has an anchor or an alias']);
    expect(said('pools.yaml', `${pool}  name: Y\n`)).toEqual(['5:: has the field “name” twice']);
    expect(said('pools.yaml', '- id: x\n  ? [a, b]\n  : 1\n')).toEqual(['2:: has a list or an object in place of a field’s name']);
    // each level of aliases doubles what is below: never expanded, whatever its width
    const bomb = Array.from({ length: 30 }, (_, i) => `- &a${i} [${i ? `*a${i - 1},*a${i - 1}` : '1'}]`).join('\n');
    expect(said('pools.yaml', bomb)).toEqual(['1:: has an anchor or an alias']);
  });

  test('a document that would take all memory is refused by its size', () => {
    expect(said('pools.yaml', `#${'x'.repeat(7_999_999)}`)).toEqual([]);
    expect(said('pools.yaml', `#${'x'.repeat(8_000_000)}`)).toEqual(['1:: is larger than 8 MB']);
  });

  test('depth is told, not fallen over, and the number of faults of one object is bounded', () => {
    for (const depth of [202, 60_000]) expect(said('pools.yaml', `${'['.repeat(depth)}${']'.repeat(depth)}`)).toHaveLength(1);
    expect(said('pools.yaml', `- id: x\n${Array.from({ length: 18_000 }, (_, i) => `  k${i}: 1`).join('\n')}\n`).length).toBeLessThan(110);
  });

  test('a cell that a spreadsheet would run is written harmless and reads back the same', () => {
    const problems: FileProblem[] = [];
    const name = fc
      .tuple(
        fc.constantFrom('', "'", "''"),
        fc.constantFrom('=', '+', '-', '@', '\t', "'", '=HYPERLINK("x")', '-12', '1'),
        fc.string({ maxLength: 8 }),
      )
      .map((parts) => parts.join('').trim())
      .filter((text) => text.length > 0);
    fc.assert(
      fc.property(name, (text) => {
        const group = Group.parse({ id: 'g', name: text, rank: 1 });
        const written = writeTable(Group, [group]);
        const [head, ...cells] = written.split('\n');
        expect(head).toContain('id');
        // as a spreadsheet sees it: no cell that is not a number begins with what starts a formula
        for (const cell of cells.join('\n').split(/,(?=(?:[^"]*"[^"]*")*[^"]*$)/))
          expect(/^"?[=+\-@\t\r]/.test(cell) && !/^"?[-+]?[\d.]+(e[-+]?\d+)?"?$/i.test(cell.trim())).toBe(false);
        expect(readTable('groups.csv', written, Group, problems).map(({ value }) => value)).toEqual([group]);
      }),
    );
    expect(problems).toEqual([]);
  });

  test('addresses are host names, times are of this calendar', () => {
    const portal = (address: string) => Portal.safeParse({ id: 'p', name: 'P', gateway: 'g', address }).success;
    for (const good of ['portal.example', 'a-b.c.example', '192.0.2.7', `${'a'.repeat(63)}.example`])
      expect([good, portal(good)]).toEqual([good, true]);
    for (const bad of [
      'evil.example/x?y=',
      'a b.example',
      '-a.example',
      'a..example',
      `${'a'.repeat(64)}.example`,
      'user@host.example',
      'x'.repeat(3000),
      'a:1',
    ])
      expect([bad.slice(0, 20), portal(bad)]).toEqual([bad.slice(0, 20), false]);
    const at = (text: string) => Instant.safeParse(text).success;
    expect(
      ['1999-12-31T23:59:59Z', '2000-01-01T00:00:00Z', '2199-12-31T23:59:59Z', '2200-01-01T00:00:00Z', '0099-01-01T00:00:00Z'].map(at),
    ).toEqual([false, true, true, false, false]);
  });
});
