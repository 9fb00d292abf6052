import { expect, test } from '@jest/globals';
import type { PortKind, Screen } from '@underpass/contracts';
import { readFileSync, writeFileSync } from 'node:fs';
import { established, establishedMore, hdmiVics, vics, type ListedMode } from './edid/modes.js';
import {
  av1Levels,
  deskFaultSays,
  h264Levels,
  hevcLevels,
  mendsOf,
  portRateGbps,
  screenMendSays,
  wayWords,
  type DeskFault,
  type ScreenMend,
} from './index.js';

const modeText = ([widthPx, heightPx, refreshHz, interlaced]: ListedMode): string =>
  `${widthPx} × ${heightPx}${interlaced ? ' interlaced' : ''} @ ${refreshHz}`;
const inBits = (list: readonly (ListedMode | null)[]) => list.map((mode) => (mode ? modeText(mode) : '–')).join('; ');
const levels = (list: readonly (readonly [string, number, number])[]) =>
  list.map(([level, rate, frame]) => `${level}: ${rate}, ${frame}`).join('; ');

/** One of each fault of an arrangement. */
const faults: readonly DeskFault[] = [
  ...(['port', 'adapter', 'cable', 'input'] as const).map((part): DeskFault => ({
    ...{ code: 'mode does not pass', screens: [0], part, kind: 'hdmi-1.4', neededGbps: 12.798, usableGbps: 8.16 },
    highestHz: part === 'port' ? 30 : 0,
  })),
  { code: 'too many screens', screens: [2], most: 2 },
  { code: 'too many screens', screens: [1, 2], most: 1 },
  { code: 'too many pixels', screens: [0, 1], pixels: 16_588_800, most: 8_294_400, of: 'client' },
  { code: 'too many pixels', screens: [0, 1], pixels: 16_588_800, most: 9_000_000, of: 'device' },
  { code: 'overlap', screens: [0, 1], byPx: 12 },
  { code: 'gap', screens: [0, 1], byPx: 100 },
  { code: 'corner', screens: [0, 1] },
  { code: 'several primaries', screens: [0, 2] },
  { code: 'primary not at origin', screens: [1], x: 1920, y: -40 },
  { code: 'mixed scales', screens: [0, 1], scales: [1, 1.5] },
  { code: 'text of another size', screens: [0, 1], factor: 1.46 },
  { code: 'mirror of another shape', screens: [1, 0] },
  { code: 'restart first', screens: [1, 2] },
];
const called = (i: number) => `Screen ${i + 1}`;
const adapters: ScreenMend = {
  ...{ code: 'better parts', screen: { widthPx: 3840, heightPx: 2160, scale: 1 } },
  parts: [
    { part: 'adapter', kind: 'dp-hbr2' },
    { part: 'input', kind: 'hdmi-2.0' },
  ],
};
const kinds = (Object.keys(portRateGbps) as PortKind[]).filter((kind) => kind !== 'internal');
/** A mode that each kind carries or not. */
const asked: readonly (readonly [name: string, screen: Pick<Screen, 'widthPx' | 'heightPx' | 'refreshHz'>])[] = [
  ['1080p60', { widthPx: 1920, heightPx: 1080, refreshHz: 60 }],
  ['1600p60', { widthPx: 2560, heightPx: 1600, refreshHz: 60 }],
  ['2160p60', { widthPx: 3840, heightPx: 2160, refreshHz: 60 }],
  ['2160p120', { widthPx: 3840, heightPx: 2160, refreshHz: 120 }],
  ['4320p60', { widthPx: 7680, heightPx: 4320, refreshHz: 60 }],
];

test('the page of screens in docs is what the tables and words say', () => {
  const page = [
    '# Modes, levels and words of screens',
    'Written by the tests from the code (`WRITE=yes npm test unit`). What they are for: [screens](screens.md).',
    '',
    '## Modes by number (CTA-861)',
    ...Object.entries(vics).map(([number, mode]) => `${number}. ${modeText(mode)}`),
    '',
    '## Modes of HDMI before',
    ...hdmiVics.map((mode, i) => `${i + 1}. ${modeText(mode)}`),
    '',
    '## Modes of a bit each',
    `First three bytes: ${inBits(established)}.`,
    '',
    `More of them: ${inBits(establishedMore)}.`,
    '',
    '## Levels of decoders',
    `H.264, macroblocks a second and a frame: ${levels(h264Levels)}.`,
    '',
    `H.265, samples a second and a frame: ${levels(hevcLevels)}.`,
    '',
    `AV1 and VP9, samples a second and a frame: ${levels(av1Levels)}.`,
    '',
    '## What is told of an arrangement',
    ...faults.map((fault) => {
      const { what, todo } = deskFaultSays(fault, called);
      return `- *${fault.code}*: ${what} ${todo}`;
    }),
    '',
    '## What gets a mode through',
    `- ${screenMendSays(adapters)}`,
    ...kinds.flatMap((port) =>
      asked.map(([name, screen]) => {
        const mends = mendsOf({ ...screen, scale: 1, port, cable: port, input: port });
        return `- ${name} by ${wayWords[port]}, ${portRateGbps[port]} Gbit/s: ${mends.length ? mends.map(screenMendSays).join('; ') : 'passes'}`;
      }),
    ),
    '',
  ].join('\n');
  const file = new URL('../../../../docs/screen-modes.md', import.meta.url);
  if (process.env.WRITE === 'yes') writeFileSync(file, page);
  expect(readFileSync(file, 'utf8')).toBe(page);
});
