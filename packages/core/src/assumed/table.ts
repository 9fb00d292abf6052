import type { LineKind } from '@underpass/contracts';

/** A figure that is assumed where nobody measured or typed one, or by which a verdict is told. */
export interface AssumedFigure {
  key: string;
  subject: 'Lines' | 'Wi-Fi' | 'People on a line' | 'Evidence' | 'Hosts' | 'Sign-on' | 'Bring-up' | 'Findings';
  words: string;
  unit: string;
  /** What is shipped. */
  value: number;
  least: number;
  most: number;
  source: string;
}

const practice = 'common practice, no source';
const memory = 'from memory, no source';
type Row = [key: string, words: string, value: number, unit: string, least: number, most: number, source?: string];
const of = (subject: AssumedFigure['subject'], rows: readonly Row[]): AssumedFigure[] =>
  rows.map(([key, words, value, unit, least, most, source = practice]) => ({ key, subject, words, unit, value, least, most, source }));

/** Words of each kind of line, and what is taken of it: delays, share of framing, variation, loss, and what the neighbourhood leaves in the evening. */
const lines: Record<LineKind, { words: string; figures: readonly [number, number, number, number, number, number, number] }> = {
  fibre: { words: 'Fibre', figures: [5, 15, 0.05, 5, 1, 1, 0] },
  cable: { words: 'Cable', figures: [10, 30, 0.05, 15, 1, 0.8, 10] },
  dsl: { words: 'DSL', figures: [20, 40, 0.1, 10, 1, 1, 0] },
  '4g': { words: '4G', figures: [40, 70, 0.05, 50, 3, 0.5, 30] },
  '5g': { words: '5G', figures: [15, 40, 0.05, 30, 3, 0.65, 15] },
  radio: { words: 'Radio', figures: [20, 80, 0.1, 40, 3, 0.7, 20] },
  'leo-satellite': { words: 'Low-orbit satellite', figures: [30, 60, 0.05, 40, 3, 0.6, 20] },
  'geo-satellite': { words: 'Geostationary satellite', figures: [550, 650, 0.05, 60, 3, 0.6, 40] },
};
/** Kinds of line as they are told. */
export const lineWords = Object.fromEntries(Object.entries(lines).map(([kind, { words }]) => [kind, words])) as Record<LineKind, string>;

const kinds = Object.keys(lines) as LineKind[];
const ofLine = (kind: LineKind): Row[] => {
  const { words, figures } = lines[kind];
  const [delayLow, delayHigh, framing, spread, loss, evening, eveningDelay] = figures;
  return [
    [`line/${kind}/delayLowMs`, `${words}: round trip to a near data centre, at least`, delayLow, 'ms', 0, 2000],
    [`line/${kind}/delayHighMs`, `${words}: round trip to a near data centre, at most`, delayHigh, 'ms', 0, 2000],
    [`line/${kind}/framingShare`, `${words}: part of a declared rate that goes to framing`, framing, 'of 1', 0, 0.5],
    [
      `line/${kind}/spreadHighMs`,
      `${words}: how far the worst twentieth of the round trips may lie above the median`,
      spread,
      'ms',
      0,
      2000,
    ],
    [`line/${kind}/lossHighPercent`, `${words}: loss that is not ruled out`, loss, '%', 0, 50],
    [`line/${kind}/eveningShare`, `${words}: part of its rate that the neighbourhood leaves in the evening`, evening, 'of 1', 0.05, 1],
    [`line/${kind}/eveningDelayMs`, `${words}: what waiting for the neighbourhood adds in the evening`, eveningDelay, 'ms', 0, 1000],
  ];
};

/** Every figure that is assumed, with what is shipped and where that is from. Each can be another in an estate. */
export const assumedFigures: readonly AssumedFigure[] = [
  ...of('Lines', kinds.flatMap(ofLine)),
  ...of('Lines', [['line/addedUnderLoadHighMs', 'What a full line adds to a round trip, at most', 100, 'ms', 0, 5000]]),
  ...of('Wi-Fi', [
    ['wifi/waitMs', 'Wait on Wi-Fi', 8, 'ms', 0, 500],
    ['wifi/waitLowMs', 'Wait on Wi-Fi, at least', 3, 'ms', 0, 500],
    ['wifi/waitHighMs', 'Wait on Wi-Fi, at most', 20, 'ms', 0, 500],
    ['wifi/lossHighPercent', 'Loss of Wi-Fi that is not ruled out', 2, '%', 0, 50],
    ['wifi/signalLowDbm', 'Signal where nobody told it, at worst', -75, 'dBm', -95, -30],
    ['wifi/signalHighDbm', 'Signal where nobody told it, at best', -50, 'dBm', -95, -30],
    ['wifi/cellShared', 'Devices active at once in a cell of a place that shares its line', 4, 'devices', 1, 200],
    ['wifi/cellOwn', 'Devices active at once in a cell elsewhere', 2, 'devices', 1, 200],
  ]),
  ...of('People on a line', [
    ['people/activeShare', 'People of a place who are active in its busiest hour', 0.6, 'of 1', 0, 1],
    ['people/activeLow', 'People of a place who are active then, at least', 0.4, 'of 1', 0, 1],
    ['people/activeHigh', 'People of a place who are active then, at most', 0.8, 'of 1', 0, 1],
    ['people/first', 'Part of those people in the first hour of the day', 0.8, 'of 1', 0, 1],
    ['people/last', 'Part of those people in its last hour', 0.7, 'of 1', 0, 1],
    ['people/break', 'Part of those people in the break', 0.6, 'of 1', 0, 1],
    ['people/outside', 'Part of those people outside the working day', 0.1, 'of 1', 0, 1],
    ['people/stormMinutes', 'Minutes within which everybody signs on in the morning', 15, 'min', 1, 240],
  ]),
  ...of('Evidence', [
    ['evidence/fewestRoundTrips', 'Round trips that a verdict needs', 20, 'round trips', 2, 10_000],
    ['evidence/freshDays', 'Days for which a measurement says all', 90, 'days', 1, 3650],
    ['evidence/halvesInDays', 'Days in which it then loses half', 180, 'days', 1, 3650],
  ]),
  ...of('Hosts', [
    ['host/drawMs', 'Time to draw a frame', 8, 'ms', 0.5, 500, memory],
    ['host/processorMs', 'Time to encode 1920 × 1080 on the processor', 12, 'ms', 0.5, 500, memory],
    ['host/cardMs', 'Time to encode 1920 × 1080 on a card', 5, 'ms', 0.5, 500, memory],
    ['host/drawnByProcessorFps', 'Frames of 3D that a processor draws', 4, 'a second', 0.1, 60],
  ]),
  ...of('Sign-on', [
    ['signon/bootThinS', 'A thin client starts', 15, 's', 0, 600, memory],
    ['signon/bootOtherS', 'Another device wakes', 3, 's', 0, 600, memory],
    ['signon/wiredS', 'It joins its network by cable', 2, 's', 0, 120, memory],
    ['signon/wifiS', 'It joins its network by Wi-Fi', 4, 's', 0, 120, memory],
    ['signon/browserS', 'The browser opens the client', 3, 's', 0, 120, memory],
    ['signon/clientS', 'The installed client starts', 1.5, 's', 0, 120, memory],
    ['signon/passwordS', 'A person types a password', 6, 's', 0, 120],
    ['signon/codeS', 'A person reads and types a code', 10, 's', 0, 300],
    ['signon/codeLowS', 'A person reads and types a code, at least', 6, 's', 0, 300],
    ['signon/codeHighS', 'A person reads and types a code, at most', 20, 's', 0, 300],
    ['signon/listS', 'The list of resources stands', 3, 's', 0, 120],
    ['signon/chooseS', 'A person chooses from it', 4, 's', 0, 120],
    ['signon/brokerS', 'A host is found', 1, 's', 0, 120, memory],
    ['signon/powerOnS', 'A host starts', 120, 's', 0, 1800],
    ['signon/wakeS', 'A host wakes', 25, 's', 0, 1800],
    ['signon/createS', 'The session is made', 4, 's', 0, 300, memory],
    ['signon/profileS', 'A profile is attached, but for its size', 1.5, 's', 0, 300, memory],
    ['signon/shellAppS', 'An app stands', 2, 's', 0, 300, memory],
    ['signon/shellDesktopS', 'A desktop stands', 5, 's', 0, 300, memory],
    ['signon/giveShare', 'What is assumed of a step may be off by', 0.15, 'of 1', 0, 1],
    ['signon/profileHighMB', 'Size that a profile nobody weighed may have', 1500, 'MB', 0, 100_000],
  ]),
  ...of('Bring-up', [
    ['bringup/answerMs', 'A server of addresses answers', 200, 'ms', 0, 10_000, memory],
    ['bringup/connectS', 'A server that is silent is waited for', 5, 's', 0.1, 300, memory],
    ['bringup/joinS', 'A Wi-Fi that does not let in is tried', 15, 's', 0.1, 300, memory],
    ['bringup/storeS', 'Certificates are read', 0.5, 's', 0, 60, memory],
    ['bringup/timeS', 'The time is asked and set', 1, 's', 0, 60, memory],
    ['bringup/writeMBps', 'Firmware is written to the device', 10, 'MB/s', 0.1, 2000, memory],
    ['bringup/signInS', 'The sign-in screen stands', 2, 's', 0, 120, memory],
    ['bringup/clockS', 'A clock may be off before certificates are refused', 3600, 's', 1, 86_400],
  ]),
  ...of('Findings', [
    ['finding/worstDelayFactor', 'The worst twentieth may take so many times what the average may', 2, 'times', 1, 20],
    ['finding/blocked', 'Weight of what keeps somebody out', 1, 'times', 0, 100],
    ['finding/limited', 'Weight of what is short', 1, 'times', 0, 100],
    ['finding/unknown', 'Weight of what is not known', 1, 'times', 0, 100],
    ['finding/risk', 'Weight of what is only at risk', 1, 'times', 0, 100],
  ]),
];

/** Pairs of which the first may not be above the second. */
const ordered: readonly (readonly [string, string])[] = [
  ...kinds.map((kind) => [`line/${kind}/delayLowMs`, `line/${kind}/delayHighMs`] as const),
  ['wifi/waitLowMs', 'wifi/waitMs'],
  ['wifi/waitMs', 'wifi/waitHighMs'],
  ['wifi/signalLowDbm', 'wifi/signalHighDbm'],
  ['people/activeLow', 'people/activeShare'],
  ['people/activeShare', 'people/activeHigh'],
  ['signon/codeLowS', 'signon/codeS'],
  ['signon/codeS', 'signon/codeHighS'],
];
const byKey = new Map(assumedFigures.map((each) => [each.key, each]));

/**
 * What is wrong with the figures that an organisation assumes, for whoever writes them; null where nothing is.
 * @returns the field, what is wrong with it and what is expected
 */
export function faultOfAssumed(assumed: Readonly<Record<string, number>>): { field: string; problem: string; expected: string } | null {
  const fault = (key: string, problem: string, expected: string) => ({ field: `assumed.${key}`, problem, expected });
  for (const [key, value] of Object.entries(assumed)) {
    const figure = byKey.get(key);
    if (!figure) return fault(key, `no figure that is assumed is called “${key}”`, 'a key such as people/activeShare');
    const { least, most, unit, words } = figure;
    if (value < least || value > most)
      return fault(key, `${value} is not ${least} to ${most} ${unit}`, `${words}: ${least} to ${most} ${unit}`);
  }
  const at = (key: string) => assumed[key] ?? (byKey.get(key)?.value as number);
  for (const [less, more] of ordered)
    if (at(less) > at(more))
      return less in assumed
        ? fault(less, `must not be above ${at(more)}`, `at most what “${byKey.get(more)?.words}” is, ${at(more)}`)
        : fault(more, `must not be below ${at(less)}`, `at least what “${byKey.get(less)?.words}” is, ${at(less)}`);
  return null;
}
