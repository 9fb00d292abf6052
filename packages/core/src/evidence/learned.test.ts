import { describe, expect, test } from '@jest/globals';
import { Endpoint, type Figures } from '@underpass/contracts';
import { learnedOf } from './index.js';

const endpointOf = (more: object = {}) =>
  Endpoint.parse({
    id: 'e',
    name: 'E',
    location: 'l',
    deviceClass: 'laptop',
    ownership: 'managed',
    platform: 'desktop',
    processor: 'x86-64',
    clientKind: 'browser',
    ...more,
  });
const screen = (widthPx: number, heightPx: number, scale = 1) => ({ widthPx, heightPx, scale });
const figuresOf = (device: NonNullable<NonNullable<Figures['browser']>['device']>, more: Partial<Figures> = {}): Figures => ({
  browser: { kind: 'browser', version: '1', touch: false, can: {}, device },
  ...more,
});
const told = (endpoint: Endpoint, figures: Figures) => learnedOf(endpoint, figures).map(({ field, found, was }) => [field, found, was]);

describe('what a field check says of an endpoint', () => {
  test('fills what nobody knew, and tells what the estate has otherwise', () => {
    expect(
      told(endpointOf(), figuresOf({ mobile: false, architecture: 'x86', bits: 64, cores: 8, memoryGB: 8, connection: 'wired' })),
    ).toEqual([
      ['cores', 8, 'not known'],
      ['memoryMB', 8192, 'not known'],
      ['connection', 'wired', 'not known'],
    ]);
    expect(told(endpointOf({ connection: 'wifi', cores: 4 }), figuresOf({ connection: 'wired', cores: 4 }))).toEqual([
      ['connection', 'wired', 'otherwise'],
    ]);
    expect(told(endpointOf({ assumed: ['processor'] }), figuresOf({ architecture: 'x86', bits: 64 }))).toEqual([
      ['processor', 'x86-64', 'assumed'],
    ]);
    expect(told(endpointOf(), {})).toEqual([]);
  });

  test.each([
    ['x86', 64, []],
    ['x86', 32, []],
    ['arm', 64, [['processor', 'arm64', 'otherwise']]],
    ['arm', 32, [['processor', 'armhf', 'otherwise']]],
    ['arm', undefined, []],
  ] as const)('a processor of the kind %s with %s bits', (architecture, bits, wanted) => {
    expect(told(endpointOf(), figuresOf({ architecture, ...(bits ? { bits } : {}) }))).toEqual(wanted);
  });

  test('a phone and a tablet are told by the width of their screens, a computer is not told from a thin client', () => {
    const mobile = (widthPx: number, scale: number, more: object = {}) =>
      told(endpointOf(more), figuresOf({ mobile: true }, { screens: [screen(widthPx, 2400, scale)] })).slice(0, 2);
    expect(mobile(1080, 3)).toEqual([
      ['platform', 'mobile', 'otherwise'],
      ['deviceClass', 'phone', 'otherwise'],
    ]);
    // 599 and 600 CSS px
    expect(mobile(599, 1)[1]).toEqual(['deviceClass', 'phone', 'otherwise']);
    expect(mobile(600, 1)[1]).toEqual(['deviceClass', 'tablet', 'otherwise']);
    expect(mobile(600, 1, { platform: 'mobile', deviceClass: 'phone' }).filter(([field]) => field === 'deviceClass')).toEqual([]);
    expect(told(endpointOf({ platform: 'thin', deviceClass: 'thin-client' }), figuresOf({ mobile: false }))).toEqual([]);
  });

  test.each([
    // a class of 8 is told of all that have more
    [65_536, 8, false],
    [8192, 8, false],
    [6144, 8, false],
    [6143, 8, true],
    [4096, 4, false],
    [8191, 4, false],
    [8192, 4, true],
  ])('%d MB in the estate, and a class of %d GB: otherwise is %s', (memoryMB, memoryGB, otherwise) => {
    expect(told(endpointOf({ memoryMB }), figuresOf({ memoryGB })).length).toBe(otherwise ? 1 : 0);
  });

  test('screens are others where one of them is, in whatever order they stand', () => {
    const two = [screen(1920, 1080), screen(2560, 1440)];
    expect(told(endpointOf({ screens: two }), { screens: [...two].reverse() })).toEqual([]);
    expect(told(endpointOf({ screens: two }), { screens: two.slice(0, 1) })).toEqual([['screens', two.slice(0, 1), 'otherwise']]);
    expect(told(endpointOf(), { screens: two })).toEqual([['screens', two, 'not known']]);
    const decoders = [{ codec: 'h264' as const, level: '4.1', chroma444: false }];
    expect(told(endpointOf(), { decoders })).toEqual([['decoders', decoders, 'not known']]);
    expect(told(endpointOf({ decoders: [] }), { decoders })).toEqual([]);
  });
});
