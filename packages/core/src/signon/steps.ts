import type { SignonStep as StepName } from '@underpass/contracts';
import { shippedAssumed, type SignonSeconds } from '../assumed/index.js';
import { inStorm, type Storm } from './storm.js';
import { criticalPath, type SignonStep, type Timeline } from './timeline.js';

/** What the sign-on depends on. */
export interface SignonFacts {
  rttMs: number;
  /** How far the round trip may be off, either way, ms. */
  rttSpreadMs?: number;
  /** Undefined where it is not known. */
  wired: boolean | undefined;
  browserClient: boolean;
  thinClient: boolean;
  alwaysOn: boolean;
  secondFactor: boolean;
  preSession: boolean;
  singleSignOn: boolean;
  /** Somebody types their password at the start; left out: unless they are signed on already. */
  types?: boolean;
  /** Steps at which somebody has to type it again. */
  typesAt?: readonly ('gateway' | 'broker' | 'host')[];
  /** A card is held to the reader. */
  taps?: boolean;
  /** The session goes over QUIC. */
  quic?: boolean;
  entryLink: boolean;
  resources: number;
  startOnly: boolean;
  hostAsleep: boolean;
  hostOff: boolean;
  profileMB: number;
  /** Size it may have where nobody told; the same as the size where it is known. */
  profileHighMB?: number;
  profileMbps: number;
  deliveredMB: number;
  publishedApp: boolean;
  firstFrameBytes: number;
  availableMbps: number;
  /** Whether the rate is known at all; else it is assumed. */
  rateKnown?: boolean;
  /** Who signs on at the same time on the same line, this one counted; nobody else where it is left out. */
  storm?: Storm | undefined;
  /** What the steps take where they were not timed; what is shipped where it is left out. */
  assumed?: SignonSeconds;
  /** Within how many minutes everybody signs on in the morning. */
  stormMinutes?: number;
  /** Steps that were timed, s: they replace what is assumed. */
  measured?: Readonly<Partial<Record<StepName, number>>> | undefined;
}

/** To hold a card to a reader, s; from memory, assumed. */
const tapS = 2;

const none: readonly string[] = [];
const lists = new Map<string, readonly string[]>();
/** A list of one name, the same one each time. */
function after(name: string): readonly string[] {
  let known = lists.get(name);
  if (!known) lists.set(name, (known = [name]));
  return known;
}

/**
 * The steps with their default durations; all assumed until measured. "Practice" durations are common practice, the others
 * from memory; figures that follow from a size and a rate are computed.
 */
export function signonTimeline(f: SignonFacts): Timeline {
  const rttS = f.rttMs / 1000;
  const s = f.assumed ?? shippedAssumed.signon;
  const steps: SignonStep[] = [];
  let before: readonly string[] = none;
  const spreadS = (f.rttSpreadMs ?? 0) / 1000;
  /** @param trips round trips in it, whose doubt is its own */
  const add = (
    name: StepName,
    bay: SignonStep['bay'],
    reckoned: number,
    trips = 0,
    byPerson = false,
    otherwise: SignonStep['source'] = 'assumed',
    moreS = 0,
    lessS = 0,
  ) => {
    if (reckoned <= 0) return;
    const timed = f.measured?.[name];
    const seconds = timed ?? reckoned;
    const source = timed === undefined ? otherwise : 'measured';
    const isMeasured = source === 'measured';
    const doubtS = isMeasured ? 0 : trips * spreadS + (source === 'assumed' && !byPerson ? seconds * s.giveShare : 0) + lessS;
    steps.push({
      name,
      bay,
      seconds,
      spreadS: doubtS,
      moreS: isMeasured ? 0 : Math.max(0, moreS - lessS),
      byPerson,
      source,
      after: before,
    });
    before = after(name);
  };
  if (!f.alwaysOn) add('endpoint boot', 'Endpoint', f.thinClient ? s.bootThinS : s.bootOtherS);
  const joinS = f.wired === false ? s.wifiS : s.wiredS;
  add(
    'network up',
    'Local network',
    f.alwaysOn ? 0 : joinS,
    0,
    false,
    'assumed',
    f.wired === undefined ? Math.max(0, s.wifiS - s.wiredS) : 0,
  );
  add('client start', 'Endpoint', f.browserClient ? s.browserS : s.clientS);
  add('sign-in form', 'Gateway', 0.5 + 2 * rttS, 2);
  const again = f.typesAt?.length ? f.typesAt : null;
  if ((f.types ?? !f.singleSignOn) || again?.includes('gateway')) add('password', 'Desk', s.passwordS, 0, true);
  else if (f.taps) add('password', 'Desk', tapS, 0, true);
  if (f.secondFactor) add('second factor', 'Gateway', s.codeS + 4 * rttS, 4, true);
  if (!f.entryLink) {
    add('list of resources', 'Gateway', s.listS + 10 * rttS + 0.2 * f.resources, 10);
    if (f.resources > 1 || !f.startOnly) add('choose', 'Desk', s.chooseS, 0, true);
  }
  // with QUIC the first greeting is the encryption’s too: one round trip less than TCP and TLS 1.3 [RFC 9001 §2.1, RFC 9000 §7]
  const brokerTrips = f.quic ? 3 : 4;
  add('broker', 'Gateway', s.brokerS + brokerTrips * rttS, brokerTrips);
  if (again?.includes('broker')) add('password at the broker', 'Desk', s.passwordS, 0, true);
  if (f.hostOff) add('power on', 'Host', s.powerOnS);
  else if (f.hostAsleep) add('wake', 'Host', s.wakeS);
  add('session create', 'Host', s.createS);
  if (f.preSession) add('pre-session sign-in', 'Gateway', 0.3 + 6 * rttS, 6);
  if (again?.includes('host')) add('password at the host', 'Desk', s.passwordS, 0, true);
  const created = before;
  const moreMB = (f.profileHighMB ?? f.profileMB) - f.profileMB;
  const profileS = s.profileS + (f.profileMB * 8) / f.profileMbps;
  add('profile attach', 'Workspace', profileS, 0, false, f.profileMB > 0 ? 'computed' : 'assumed', (moreMB * 8) / f.profileMbps);
  // applications are delivered beside the profile, not after it
  const delivered = f.measured?.['applications delivered'];
  if (f.deliveredMB > 0)
    steps.push({
      name: 'applications delivered',
      bay: 'Workspace',
      seconds: delivered ?? (f.deliveredMB * 8) / f.profileMbps,
      spreadS: 0,
      moreS: 0,
      byPerson: false,
      source: delivered === undefined ? 'computed' : 'measured',
      after: created,
    });
  before = f.deliveredMB > 0 ? ['profile attach', 'applications delivered'] : before;
  add('shell', 'Workspace', f.publishedApp ? s.shellAppS : s.shellDesktopS);
  const aloneS = (f.firstFrameBytes * 8) / 1e6 / Math.max(0.01, f.availableMbps);
  // whoever signs on later shares the line with those who work; whoever does at the beginning, with those who sign on
  let [leastS, pictureS, mostS] = [aloneS, aloneS, aloneS];
  if (f.storm) {
    const storm = inStorm(f.firstFrameBytes, f.storm, f.stormMinutes ?? shippedAssumed.people.stormMinutes, aloneS);
    if (storm) [leastS, pictureS, mostS] = [Math.max(aloneS, storm.low), Math.max(aloneS, storm.seconds), storm.high];
  }
  add(
    'first useful picture',
    'Link',
    rttS + pictureS,
    1,
    false,
    f.rateKnown === false ? 'assumed' : 'computed',
    Math.max(mostS - pictureS, f.rateKnown === false ? 4 * aloneS : 0),
    pictureS - leastS,
  );
  return criticalPath(steps);
}
