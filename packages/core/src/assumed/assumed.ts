import type { LineKind, Organisation, Weekday } from '@underpass/contracts';
import { assumedFigures, lineWords } from './table.js';

/** What the neighbourhood leaves of a rate in the evening, 0 to 1, and what waiting for it adds to a round trip then, ms. */
export interface Evening {
  share: number;
  delayMs: number;
}

/** What is taken of a kind of line where nothing is measured. */
export interface LineFigures {
  words: string;
  /** Round trip to the first router and on to a near data centre, ms. */
  delayLowMs: number;
  delayHighMs: number;
  /** Share of a declared rate that goes to framing; a measured rate has it off already. */
  framingShare: number;
  /** How far the worst twentieth of the round trips may lie above their median, ms. */
  spreadHighMs: number;
  /** Loss that is not ruled out, percent. */
  lossHighPercent: number;
  /** null where the line is nobody else's. */
  evening: Evening | null;
}

/** Figures that are assumed, as an estate has them; each with its unit in its name or as the table in contracts tells it. */
export interface Assumed {
  lines: Record<LineKind, LineFigures>;
  /** A full line adds up to this where nobody measured it. */
  addedUnderLoadHighMs: number;
  wifi: {
    waitMs: number;
    waitLowMs: number;
    waitHighMs: number;
    lossHighPercent: number;
    signalLowDbm: number;
    signalHighDbm: number;
    cellShared: number;
    cellOwn: number;
  };
  people: {
    activeShare: number;
    activeLow: number;
    activeHigh: number;
    /** Parts of those of the busiest hour. */
    first: number;
    last: number;
    break: number;
    outside: number;
    stormMinutes: number;
  };
  evidence: { fewestRoundTrips: number; freshDays: number; halvesInDays: number };
  host: { drawMs: number; processorMs: number; cardMs: number; drawnByProcessorFps: number };
  signon: SignonSeconds;
  bringup: BringupFigures;
  finding: { worstDelayFactor: number; blocked: number; limited: number; unknown: number; risk: number };
  /** When a place works that does not say. */
  day: { worksFrom: string; worksTo: string; worksOn: readonly Weekday[] };
}

/** How long the steps of a sign-on take where nobody timed them, s. */
export interface SignonSeconds {
  bootThinS: number;
  bootOtherS: number;
  wiredS: number;
  wifiS: number;
  browserS: number;
  clientS: number;
  passwordS: number;
  codeS: number;
  codeLowS: number;
  codeHighS: number;
  listS: number;
  chooseS: number;
  brokerS: number;
  powerOnS: number;
  wakeS: number;
  createS: number;
  profileS: number;
  shellAppS: number;
  shellDesktopS: number;
  /** What is assumed of a step may be off by this part of it. */
  giveShare: number;
  profileHighMB: number;
}

/** What is taken of a device that starts. */
export interface BringupFigures {
  answerMs: number;
  connectS: number;
  joinS: number;
  storeS: number;
  timeS: number;
  writeMBps: number;
  signInS: number;
  clockS: number;
}

/** From eight to six, Monday to Friday; common practice, no source. */
const usualDay: Assumed['day'] = { worksFrom: '08:00', worksTo: '18:00', worksOn: ['mon', 'tue', 'wed', 'thu', 'fri'] };

/** What of an organisation says what is assumed. */
type Says = Pick<Organisation, 'assumed' | 'worksFrom' | 'worksTo' | 'worksOn'>;
const known = new WeakMap<Says, Assumed>();

/** The figures as an estate has them: what is shipped, but for what its organisation says. The same object for the same organisation. */
export function assumedOf(organisation: Says): Assumed {
  let made = known.get(organisation);
  if (!made) known.set(organisation, (made = make(organisation)));
  return made;
}

function make({ assumed = {}, worksFrom, worksTo, worksOn }: Says): Assumed {
  const values = new Map(assumedFigures.map(({ key, value }) => [key, assumed[key] ?? value]));
  const value = (key: string): number => values.get(key) as number;
  const group = <T>(name: string): T => {
    const found: Record<string, number> = {};
    for (const [key, each] of values) if (key.startsWith(`${name}/`)) found[key.slice(name.length + 1)] = each;
    return found as T;
  };
  const line = (kind: string): LineFigures => {
    const { eveningShare, eveningDelayMs, ...rest } = group<
      Omit<LineFigures, 'words' | 'evening'> & { eveningShare: number; eveningDelayMs: number }
    >(`line/${kind}`);
    const isOwn = eveningShare === 1 && eveningDelayMs === 0;
    return { words: lineWords[kind as LineKind], ...rest, evening: isOwn ? null : { share: eveningShare, delayMs: eveningDelayMs } };
  };
  return {
    lines: Object.fromEntries(Object.keys(lineWords).map((kind) => [kind, line(kind)])) as Assumed['lines'],
    addedUnderLoadHighMs: value('line/addedUnderLoadHighMs'),
    wifi: group('wifi'),
    people: group('people'),
    evidence: group('evidence'),
    host: group('host'),
    signon: group('signon'),
    bringup: group('bringup'),
    finding: group('finding'),
    day: {
      worksFrom: worksFrom ?? usualDay.worksFrom,
      worksTo: worksTo ?? usualDay.worksTo,
      worksOn: worksOn ?? usualDay.worksOn,
    },
  };
}

/** The figures as they are shipped. */
export const shippedAssumed: Assumed = assumedOf({});
