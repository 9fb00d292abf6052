import fc from 'fast-check';
import type { Otherwise } from './small.js';

const often = <T>(usual: T, other: fc.Arbitrary<T>) =>
  fc.oneof({ weight: 12, arbitrary: fc.constant(usual) }, { weight: 1, arbitrary: other });
const number = (min: number, max: number) => fc.double({ min, max, noNaN: true });
const contents = [{ text: 1 }, { text: 0.5, still: 0.5 }, { video: 0.3, text: 0.7 }, { 'page-video': 0.2, window: 0.8 }, { motion: 1 }];

/** What a field check may find of a line. */
const line = fc.record({
  medianMs: often(20, number(2, 400)),
  spreadMs: often(2, number(0, 4)),
  samples: often(200, fc.constantFrom(12, 60)),
  sent: fc.constantFrom(400, 2000),
  lostShare: often(0, number(0, 0.2)),
  passes: often(true, fc.constant(false)),
  jitterMs: often(2, number(0, 40)),
  downMbps: often(95, number(0.5, 900)),
  upMbps: often(19, number(0.1, 900)),
  addedMs: often(0, number(0, 90)),
});
export type AnyLine = typeof line extends fc.Arbitrary<infer T> ? T : never;

/** Crossings of all sorts on the small estate: what of them is good and what is not is left to chance. */
export const anyCrossing = fc.record({
  line,
  sharedBy: often(1, fc.integer({ min: 2, max: 400 })),
  activeShare: often<number | undefined>(0.5, fc.constantFrom(undefined, 0.2, 0.9)),
  lineKind: often('fibre', fc.constantFrom('dsl', '4g', 'leo-satellite')),
  clientKind: often('native client', fc.constantFrom('browser', 'thin-client firmware')),
  connection: often<string | undefined>('wired', fc.constantFrom('wifi', undefined)),
  wifiSignalDbm: fc.constantFrom(undefined, -60, -78),
  screens: often(
    [{ widthPx: 1920, heightPx: 1080, refreshHz: 60 }],
    fc.array(
      fc.record({ widthPx: fc.constantFrom(1920, 3840), heightPx: fc.constantFrom(1080, 2160), refreshHz: fc.constantFrom(24, 60) }),
      { minLength: 1, maxLength: 3 },
    ),
  ),
  decoders: often<object[] | undefined>(
    [{ codec: 'h264', level: '5.2' }],
    fc.constantFrom([], undefined, [{ codec: 'h264', level: '4' }], [{ codec: 'h264', level: '9' }]),
  ),
  peripherals: often<string[]>([], fc.subarray(['headset', 'camera', 'card-reader', 'storage'])),
  clientVersion: often<string | undefined>('9.9', fc.constantFrom('1.0', undefined)),
  floor: often<string | undefined>(undefined, fc.constant('5.0')),
  certificate: often('good', fc.constantFrom('ended', 'none', 'unknown')),
  power: often<string | undefined>('on', fc.constantFrom('asleep', 'off', undefined)),
  used: often<number | undefined>(2, fc.constantFrom(10, undefined)),
  drawMs: often<number | undefined>(8, fc.constantFrom(10, undefined)),
  encodeMs: often<number | undefined>(10, fc.constantFrom(14, undefined)),
  profileMB: often<number | undefined>(0, fc.constantFrom(800, undefined)),
  content: often<object>({ text: 1 }, fc.constantFrom(...contents)),
  work: often('office', fc.constantFrom('calls', 'video', 'design', 'status')),
  calls: fc.boolean(),
  camera: fc.boolean(),
  secondFactor: often(false, fc.constant(true)),
  timeoutS: often(40, fc.constantFrom(5, 15)),
  frameCap: often(30, fc.constantFrom(10, 60)),
  tcp: often(false, fc.constant(true)),
  repair: often('resend', fc.constantFrom('forward', 'none')),
  capMbps: often(1000, fc.constantFrom(1, 20)),
  alwaysOn: often(true, fc.constant(false)),
});
export type AnyCrossing = typeof anyCrossing extends fc.Arbitrary<infer T> ? T : never;

const certificates: Record<string, object | undefined> = {
  good: { names: ['gate.example'], notBefore: '2026-01-01', notAfter: '2027-12-31', trust: 'public' },
  ended: { names: ['gate.example'], notBefore: '2025-01-01', notAfter: '2025-12-31', trust: 'public' },
  none: { names: ['gate.example'], notBefore: '2026-01-01', notAfter: '2027-12-31', trust: 'none' },
  unknown: undefined,
};

/** The crossing of the small estate that it stands for. */
export function otherwiseOf(any: AnyCrossing): Otherwise {
  const { medianMs, spreadMs, samples, sent, lostShare, passes, jitterMs, downMbps, upMbps, addedMs } = any.line;
  return {
    location: {
      lineKind: any.lineKind,
      sharedBy: any.sharedBy,
      activeShare: any.activeShare,
      delayMs: undefined,
      downMbps: undefined,
      upMbps: undefined,
    },
    endpoint: {
      clientKind: any.clientKind,
      connection: any.connection,
      wifiSignalDbm: any.wifiSignalDbm,
      screens: any.screens,
      decoders: any.decoders,
      peripherals: any.peripherals,
      clientVersion: any.clientVersion,
      alwaysOn: any.alwaysOn,
    },
    gateway: {
      certificate: certificates[any.certificate],
      secondFactor: any.secondFactor,
      ...(any.floor ? { clientFloors: { [any.clientKind]: any.floor } } : {}),
    },
    host: { power: any.power, used: any.used, drawMs: any.drawMs, encodeMs: any.encodeMs },
    resource: { content: any.content, work: any.work, calls: any.calls, camera: any.camera, profileMB: any.profileMB },
    settings: {
      'security.secondFactorTimeoutS': any.timeoutS,
      'picture.frameCap': any.frameCap,
      'transport.prefer': any.tcp ? 'tcp' : 'udp',
      'transport.repair': any.repair,
      'transport.capMbps': any.capMbps,
    },
    measured: {
      roundTrips: {
        samples,
        lost: Math.round(samples * (passes ? 0 : lostShare)),
        minMs: medianMs * 0.95,
        medianMs,
        p95Ms: medianMs + spreadMs,
        medianLowMs: medianMs * 0.98,
        medianHighMs: medianMs * 1.02,
      },
      datagrams: passes ? { passes, sent, lost: Math.round(sent * lostShare), jitterMs } : { passes },
      downMbps,
      upMbps,
      addedDownMs: addedMs,
      addedUpMs: addedMs,
    },
  };
}
