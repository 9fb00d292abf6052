// Bring-up: how fast captures are read and messages told, and configuration files merged.
import { readFileSync } from 'node:fs';
import { boot, BootReader, CaptureReader, datagramIn, decodeDhcp, mergeConfig } from '../packages/core/dist/index.js';

const lease = new Uint8Array(readFileSync(new URL('../packages/core/src/evidence/capture/fixtures/lease.pcap.pcap', import.meta.url)));
const head = 24;

/** A capture of about 100 MB, in pieces as a file is read. */
function large() {
  const body = lease.slice(head);
  const piece = new Uint8Array(body.length * 200);
  for (let i = 0; i < 200; i++) piece.set(body, i * body.length);
  return [lease.slice(0, head), ...Array.from({ length: Math.ceil(100e6 / piece.length) }, () => piece)];
}

/** An estate of ten thousand thin clients at a hundred places, each with a file of its own. */
function fleet() {
  const n = 10_000;
  const place = (i) => `place-${i % 100}`;
  const locations = new Map(
    Array.from({ length: 100 }, (_, i) => [place(i), { id: place(i), name: place(i), lineKind: 'fibre', downMbps: 100 }]),
  );
  const endpoints = new Map(
    Array.from({ length: n }, (_, i) => {
      const id = `tc-${i}`;
      return [
        id,
        {
          id,
          location: place(i),
          deviceClass: 'thin-client',
          processor: 'x86-64',
          clientKind: 'thin-client firmware',
          connection: 'wired',
          firmware: '4.12.1',
        },
      ];
    }),
  );
  const options = [
    { code: 3, type: 'address', value: '192.0.2.1' },
    { code: 226, type: 'text', value: 'http://192.0.2.10/config' },
  ];
  const all = { id: 'all', layer: 'organisation', target: '*', text: '[broker]\naddress = gate.example\n[picture]\nframeCap = 30\n' };
  const own = (id) => ({ id, layer: 'endpoint', target: id, text: `[picture]\nframeCap = ${20 + (id.length % 9)}\n` });
  return {
    ids: [...endpoints.keys()],
    estate: {
      endpoint: (id) => endpoints.get(id),
      location: (id) => locations.get(id),
      deviceClass: [{ id: 'thin-client', vendorClass: 'tc', serverOption: { code: 226, type: 'text' } }],
      scope: [...locations.keys()].map((id) => ({
        id,
        location: id,
        server: '192.0.2.2',
        addressRange: '192.0.2.50-192.0.2.90',
        free: 9,
        options,
      })),
      configServer: [{ id: 'server', address: '192.0.2.10', reachable: true }],
      configFile: [all, ...[...endpoints.keys()].map(own)],
      firmware: [{ id: 'fw', deviceClass: 'thin-client', version: '4.12.1', processor: 'x86-64', sizeMB: 600 }],
      gateway: [],
    },
  };
}

/** @param tell takes a name, what was measured, and what is wanted */
export function benchBringup(tell) {
  const pieces = large();
  const megabytes = pieces.reduce((sum, { length }) => sum + length, 0) / 1e6;
  const read = (take) => {
    const started = performance.now();
    const reader = new CaptureReader({
      packet: ({ linkType, bytes }) => take(datagramIn(linkType, bytes)),
      problem: (problem) => console.log(problem),
    });
    for (const piece of pieces) reader.push(piece);
    reader.end();
    return (performance.now() - started) / 1000;
  };
  const fastest = (rounds, work) => Math.min(...Array.from({ length: rounds }, work));
  const rate = (seconds) => `${Math.round(megabytes / seconds)} MB/s`;
  tell('bring-up: a capture of 100 MB read into its datagrams', rate(fastest(3, () => read(() => undefined))), '100 MB/s and more');
  tell(
    'bring-up: the same, every message of DHCP decoded and checked',
    rate(fastest(2, () => read(({ payload }) => decodeDhcp(payload)))),
    '',
  );
  const all = '[picture]\nframeCap = 30\ncodec = h264\n[broker]\naddress = broker.example\n[redirection]\ndevices = "headset, camera"\n';
  const started = performance.now();
  for (let i = 0; i < 50_000; i++)
    mergeConfig([
      { name: 'all.ini', text: all },
      { name: 'class.ini', text: '[picture]\nframeCap = 24\n' },
      { name: 'own.ini', text: `[broker]\naddress = b${i}.example\n` },
    ]);
  tell('bring-up: 50 000 times three configuration files merged', `${((performance.now() - started) / 1000).toFixed(1)} s`, 'under 5 s');
  const { ids, estate } = fleet();
  const began = performance.now();
  const reader = new BootReader(estate, Date.UTC(2026, 10, 25, 10));
  const broken = ids.filter((id) => boot(reader.read(id)).broken);
  if (broken.length) throw new Error(`${broken.length} starts broke`);
  tell(
    'bring-up: 10 000 starts simulated, each with two files whose sums are held against the list',
    `${((performance.now() - began) / 1000).toFixed(2)} s`,
    'under 1 s',
  );
}
