// Bad inputs for everything that reads a text: none may throw, and none may take long.
import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { root } from '../ready.mjs';
import { anything, seeded, spoiled } from './seeded.mjs';

const text = (...path) => readFileSync(join(root, ...path), 'utf8');
const isSchema = (value) => typeof value === 'object' && value !== null && '_zod' in value;

/** Reads devices; that what is read makes no sense is an answer, anything else a failure. */
function withoutUsbFault(core, read) {
  try {
    for (const device of read()) core.bestFor(core.functionsOf(device));
  } catch (error) {
    if (!(error instanceof core.UsbError)) throw error;
  }
}

/** @returns {Promise<{inputs: number, failed: string[], longestMs: number, slowest: string}>} */
export async function attackReaders(count) {
  const contracts = await import('../../packages/contracts/dist/index.js');
  const core = await import('../../packages/core/dist/index.js');
  const folder = (name) => readdirSync(join(root, 'demo/saltmarsh')).filter((file) => file.endsWith(name));
  // the head and some rows: the point is what is wrong in them, not how many there are
  const some = (file) => text('demo/saltmarsh', file).split('\n').slice(0, 12).join('\n');
  const samples = {
    csv: folder('.csv').map((file) => [file, some(file)]),
    yaml: folder('.yaml').map((file) => [file, text('demo/saltmarsh', file).slice(0, 2500)]),
    measurement: readdirSync(join(root, 'packages/core/src/link/fixtures')).map((file) =>
      text('packages/core/src/link/fixtures', file).slice(0, 6000),
    ),
    har: readdirSync(join(root, 'packages/core/src/signon/fixtures'))
      .filter((file) => file.endsWith('.har'))
      .map((file) => text('packages/core/src/signon/fixtures', file).slice(0, 20_000)),
    set: readdirSync(join(root, 'packages/contracts/requirements')).map((file) => text('packages/contracts/requirements', file)),
    frame: [
      '{"type":"start"}',
      '{"type":"ping","n":4}',
      '{"type":"figures","done":true,"figures":{"downMbps":12,"datagrams":{"passes":true,"sent":200,"lost":3}}}',
      '{"type":"offer","sdp":"v=0"}',
    ],
  };
  const requests = Object.entries(contracts).filter(
    ([name, value]) => isSchema(value) && /(Request|Query)$|^SignIn$|^FromPage$|^PortalReport$|^BootReport$|^DoorRules$/.test(name),
  );
  const json = (content) => {
    if (contracts.faultOfJsonShape(content)) return;
    let value;
    try {
      value = JSON.parse(content);
    } catch {
      return;
    }
    if (contracts.faultOfTexts(value)) return;
    contracts.FromPage.safeParse(value);
  };
  const readers = [
    [
      'tables',
      (random) => random.pick(samples.csv),
      ([file, content], random) => contracts.readFolder(new Map([[file, spoiled(content, random)]]), {}, undefined, core.faultOfSetting),
    ],
    [
      'documents',
      (random) => random.pick(samples.yaml),
      ([file, content], random) => contracts.readFolder(new Map([[file, spoiled(content, random)]]), {}, undefined, core.faultOfSetting),
    ],
    [
      'requirement sets',
      (random) => random.pick(samples.set),
      (content, random) => contracts.readDocument('requirements.yaml', spoiled(content, random), contracts.RequirementSet, []),
    ],
    ['measurements', (random) => random.pick(samples.measurement), (content, random) => core.readMeasurementFile(spoiled(content, random))],
    [
      'recordings',
      (random) =>
        random.pick(samples.har.length ? samples.har : ['{"log":{"version":"1.2","creator":{"name":"x","version":"1"},"entries":[]}}']),
      (content, random) => {
        const parsed = contracts.parseHar(spoiled(content, random));
        if (!('problem' in parsed)) core.readHar(parsed.har, core.shippedRules);
      },
    ],
    [
      'answers of a first start',
      () => core.firstBootText({ zone: 'Europe/London', locale: 'en-GB', keyboard: 'gb', mode: 'client', password: 'ask' }),
      (content, random) => {
        const read = core.readFirstBoot(spoiled(content, random));
        if (read.ok) core.checkFirstBoot(read.value, { timeZone: 'Europe/Oslo' }, { deviceClass: 'kiosk' }, 0);
      },
    ],
    [
      'profiles of settings',
      () => '[picture]\nframeCap = 30\ncodec = h264\n[signon]\ndomain = "sea"\n',
      (content, random) => {
        const file = spoiled(content, random);
        const { profile } = core.profileFromIni(file);
        core.checkedProfile(profile);
        core.checkedProfile(core.flatProfile(core.nestedProfile(profile)).profile);
        core.profileAsIni(profile);
      },
    ],
    [
      'listings of devices',
      () =>
        'Bus 001 Device 002: ID f1d0:0801 Stick\nDevice Descriptor:\n  bcdUSB 2.00\n  Configuration Descriptor:\n    MaxPower 200mA\n    Interface Descriptor:\n      bInterfaceNumber 0\n      bInterfaceClass 8\n      Endpoint Descriptor:\n        bmAttributes 2\n        wMaxPacketSize 0x0200\n',
      (content, random) => withoutUsbFault(core, () => core.readLsusb(spoiled(content, random))),
    ],
    [
      'descriptors of devices',
      () =>
        String.fromCharCode(
          18,
          1,
          0,
          2,
          0,
          0,
          0,
          64,
          0xd0,
          0xf1,
          1,
          8,
          0,
          1,
          0,
          0,
          0,
          1,
          9,
          2,
          32,
          0,
          1,
          1,
          0,
          0x80,
          100,
          9,
          4,
          0,
          0,
          1,
          8,
          6,
          80,
          0,
        ),
      (content, random) => withoutUsbFault(core, () => core.readBinary(Buffer.from(spoiled(content, random), 'latin1'))),
    ],
    [
      'configuration files',
      () => '[picture]\r\nframeCap! = 30 ; films\r\n;[sound]\r\n;rate = "48 000"\r\n',
      (content, random) => {
        const file = spoiled(content, random);
        core.mergeConfig([{ name: 'f', text: file }]);
        core.setKey(file, 'picture', 'frameCap', file.slice(0, 20));
        for (const on of [true, false]) core.switchSection(file, 'sound', on);
      },
    ],
    [
      'screens',
      () => '3840x2160@60 hdmi-1.4 adapter dvi cable dp-hbr2 +0-5 turned 90 primary 600x340mm called A%20B',
      (content, random) =>
        contracts.readFolder(new Map([['endpoints.csv', `id,screens\nA,${JSON.stringify(spoiled(content, random))}\n`]])),
    ],
    ['frames', (random) => random.pick(samples.frame), (content, random) => json(spoiled(content, random))],
    [
      'bodies',
      (random) => random.pick(requests),
      ([, schema], random) => {
        const value = anything(random);
        if (!contracts.faultOfTexts(value)) schema.safeParse(value);
      },
    ],
    [
      'objects',
      (random) => random.pick(contracts.objectKinds),
      (kind, random) => contracts.faultsOfObject(kind, anything(random), () => false, core.faultOfSetting),
    ],
  ];
  const failed = [];
  let longestMs = 0;
  let slowest = '';
  const one = (seed) => {
    const random = seeded(seed);
    const [name, choose, read] = readers[seed % readers.length];
    const from = performance.now();
    try {
      read(choose(random), random);
    } catch (error) {
      failed.push(`${name}, seed ${seed}: ${error.stack?.split('\n').slice(0, 2).join(' ')}`);
    }
    const took = performance.now() - from;
    if (took > longestMs) [longestMs, slowest] = [took, `${name}, seed ${seed}`];
  };
  // what failed once is tried every time
  const kept = JSON.parse(readFileSync(new URL('./kept.json', import.meta.url), 'utf8'));
  for (const seed of kept.seeds) one(seed);
  for (const { reader, content } of kept.texts) {
    const from = performance.now();
    try {
      if (reader === 'measurements') core.readMeasurementFile(content.repeat ? content.text.repeat(content.repeat) : content);
      else if (reader === 'documents') contracts.readDocument('pools.yaml', content, contracts.objectSchemas.pool, []);
      else json(content);
    } catch (error) {
      failed.push(`kept text for ${reader}: ${error.message}`);
    }
    longestMs = Math.max(longestMs, performance.now() - from);
  }
  // warmed up: the first of each kind compiles what the others use
  longestMs = 0;
  for (let i = 0; i < count; i++) one(i);
  return { inputs: count + kept.seeds.length + kept.texts.length, failed, longestMs, slowest };
}
