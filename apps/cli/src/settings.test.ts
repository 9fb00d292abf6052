import { expect, test } from '@jest/globals';
import { catalogue, settingKeys } from '@underpass/core';
import { mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { commandLine } from './commandLine.js';

const folder = mkdtempSync(join(tmpdir(), 'underpass-settings-'));
const put = (name: string, text: string) => writeFileSync(join(folder, name), text);
put('organisation.yaml', '- id: organisation\n  name: O\n');
put('locations.csv', 'id,name,kind,latitude,longitude,lineKind\nhall,Hall,office,0,0,fibre\n');
put('groups.csv', 'id,name,rank,memberOf\nstaff,Staff,1,\nclerks,Clerks,2,staff\n');
put('people.csv', 'id,name,kind,location,groups\nann,Ann,staff,hall,clerks\nbob,Bob,staff,hall,\n');
put(
  'endpoints.csv',
  'id,name,location,person,deviceClass,ownership,platform,processor,clientKind\nE1,E1,hall,ann,laptop,managed,desktop,x86-64,browser\nE2,E2,hall,,laptop,managed,desktop,x86-64,native client\n',
);
put(
  'settings.yaml',
  [
    ['f1', 'picture.frameCap', 'organisation', '*', '20'],
    ['f2', 'picture.frameCap', 'group', 'staff', '40'],
    ['f3', 'picture.frameCap', 'endpoint', 'E1', '50', '  condition: { metered: true }'],
    ['t1', 'security.tlsMinimum', 'organisation', '*', '"1.3"'],
    ['t2', 'security.tlsMinimum', 'endpoint', 'E1', '"1.2"'],
    ['c1', 'picture.codec', 'location', 'hall', 'hevc', '  locked: true'],
    ['c2', 'picture.codec', 'person', 'ann', 'av1'],
    ['d1', 'redirection.devices', 'organisation', '*', '[scanner]'],
    ['d2', 'redirection.devices', 'endpoint', 'E1', '[scanner]'],
    ['w1', 'security.certificateTrust', 'location', 'hall', 'warn'],
    ['o1', 'media.callOffload', 'organisation', '*', 'true'],
  ]
    .map(
      ([id, key, layer, target, value, more = '']) =>
        `- id: ${id}\n  key: ${key}\n  layer: ${layer}\n  target: "${target}"\n  value: ${value}\n${more}\n`,
    )
    .join(''),
);

interface Told {
  key: string;
  value: unknown;
  unit: string | null;
  layer: string;
  rule: string;
  hidden: { layer: string; value: unknown; reason: string }[];
  obeyed: boolean;
}
const told = async (...args: string[]) => {
  const { settings } = JSON.parse(await commandLine(['settings', folder, ...args, '--json'])) as { settings: Told[] };
  return (key: string) => settings.find((each) => each.key === key)!;
};

test('each setting once, with value, unit, layer, rule, what it hides and why, and whether the client follows it', async () => {
  const of = await told('--endpoint', 'E1');
  expect(of('picture.frameCap')).toEqual({
    ...{ key: 'picture.frameCap', value: 40, unit: 'a second', layer: 'group', rule: 'nearest', obeyed: true },
    hidden: expect.arrayContaining([
      { layer: 'organisation', value: 20, reason: 'nearer' },
      { layer: 'endpoint', value: 50, reason: 'condition' },
    ]),
  });
  expect(of('picture.frameCap').hidden.length).toBe(2);
  expect(of('security.tlsMinimum')).toMatchObject({
    value: '1.3',
    layer: 'organisation',
    rule: 'strictest',
    hidden: [{ layer: 'endpoint', value: '1.2', reason: 'stricter' }],
  });
  expect(of('picture.codec')).toMatchObject({
    value: 'hevc',
    layer: 'location',
    hidden: [{ layer: 'person', value: 'av1', reason: 'lock' }],
  });
  // the entry that changed the list decides; the other one changed nothing
  expect(of('redirection.devices')).toMatchObject({
    value: ['headset', 'camera', 'printer', 'scanner'],
    layer: 'organisation',
    rule: 'add',
    hidden: [],
  });
  // the default is no layer: what is less strict than it counts where nobody says otherwise
  expect(of('security.certificateTrust')).toMatchObject({ value: 'warn', layer: 'location', hidden: [] });
  expect(of('media.callOffload')).toMatchObject({ value: true, layer: 'organisation', obeyed: false });
  expect(of('picture.chroma')).toEqual({
    key: 'picture.chroma',
    value: catalogue['picture.chroma'].default,
    unit: null,
    layer: 'default',
    rule: 'nearest',
    hidden: [],
    obeyed: true,
  });
  const all = JSON.parse(await commandLine(['settings', folder, '--endpoint', 'E1', '--json'])) as { settings: Told[] };
  expect(all.settings.map(({ key }) => key)).toEqual(settingKeys);
});

test('for another person, and for an endpoint that is nobody’s', async () => {
  const bob = await told('--endpoint', 'E1', '--person', 'bob');
  expect(bob('picture.frameCap')).toMatchObject({ value: 20, layer: 'organisation' });
  expect(bob('picture.codec').hidden).toEqual([]);
  const nobody = await told('--endpoint', 'E2');
  expect(nobody('picture.frameCap')).toMatchObject({ value: 20 });
  expect(nobody('media.callOffload').obeyed).toBe(true);
});

test.each<[string[], string]>([
  [[], '--endpoint: is missing'],
  [['--endpoint', 'nothing'], 'no endpoint has the id “nothing”'],
  [['--endpoint', 'E1', '--person', 'nobody'], 'no person has the id “nobody”'],
  [['--endpoint', 'E1', '--resource', 'nothing'], 'no resource has the id “nothing”'],
])('%j is refused', async (args, says) => {
  await expect(commandLine(['settings', folder, ...args])).rejects.toThrow(says);
});

test('what does not fit is told with its crossing; of what a client ignores too', async () => {
  put('regions.yaml', '- id: r\n  name: R\n  latitude: 0\n  longitude: 0\n');
  put(
    'gateways.yaml',
    '- id: g\n  name: Main gateway\n  region: r\n  address: g.example\n  securityModes: [tls]\n  codecs: [h264, hevc]\n',
  );
  put('pools.yaml', '- id: p\n  name: P\n  gateway: g\n  securityModes: [tls]\n');
  put('hosts.csv', 'id,name,pool,region,places\nh,H,p,r,4\n');
  put('resources.csv', 'id,name,kind,pool,work,content\nmail,Mail,app,p,office,text:1\n');
  put('portals.csv', 'id,name,gateway,address\nq,Q,g,q.example\n');
  put('publications.csv', 'id,name,kind,pool,resources,portals\nb,B,apps,p,mail,q\n');
  put('groups.csv', 'id,name,rank,memberOf,publications\nstaff,Staff,1,,b\nclerks,Clerks,2,staff,\n');
  const { problems } = JSON.parse(await commandLine(['lint', folder, '--json'])) as { problems: Record<string, string>[] };
  expect(problems).toEqual([
    {
      rule: 'a setting that the client ignores',
      crossing: 'ann~E1~mail',
      cause: '“Call sound” is set, and a browser does not follow it',
      consequence: 'Nothing comes of it here',
      remedy: 'Use the native client, or give the setting the condition of its client kind',
    },
  ]);
});
