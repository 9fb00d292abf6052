// Bring-up: how fast captures are read and messages told, and configuration files merged.
import { readFileSync } from 'node:fs';
import { CaptureReader, datagramIn, decodeDhcp, mergeConfig } from '../packages/core/dist/index.js';

const lease = new Uint8Array(readFileSync(new URL('../packages/core/src/evidence/capture/fixtures/lease.pcap.pcap', import.meta.url)));
const head = 24;

/** A capture of about 100 MB, in pieces as a file is read. */
function large() {
  const body = lease.slice(head);
  const piece = new Uint8Array(body.length * 200);
  for (let i = 0; i < 200; i++) piece.set(body, i * body.length);
  return [lease.slice(0, head), ...Array.from({ length: Math.ceil(100e6 / piece.length) }, () => piece)];
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
}
