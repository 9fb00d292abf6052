import type { Host } from '@underpass/contracts';
import { followed, type SettingValues } from '../settings/index.js';
import type { SignonFacts } from '../signon/index.js';
import type { Demand } from '../picture/index.js';
import type { CrossingFacts } from './facts.js';
import { signsOnByItself, tapsCard, typesAgainAt, typesFirst } from './handed.js';
import { asksSecondFactor } from './ladder.js';
import type { Session } from './session.js';
import type { Way } from './way.js';

/** Rate for the first picture where nothing is known of the line, Mbit/s; assumed. */
const assumedMbps = 5;

/** A device that is switched off, sleeps or starts again when its person goes starts in the morning, whatever it is said to be. */
const isOffInTheMorning = ({ endpoint }: CrossingFacts, s: SettingValues): boolean =>
  (s['client.powerOff'] !== 'stays on' || s['session.logOff'] !== 'back to sign-in') &&
  (followed(s, 'client.powerOff', endpoint) === 'off' || followed(s, 'session.logOff', endpoint) === 'switch off');

/** What the sign-on of a crossing depends on. */
export const signonFactsOf = (
  facts: CrossingFacts,
  s: SettingValues,
  {
    way,
    host,
    demand,
    session,
    profileMbps,
  }: { way: Way; host: Host | undefined; demand: Pick<Demand, 'firstFrameBytes'>; session: Pick<Session, 'quic'>; profileMbps: number },
): SignonFacts => ({
  rttMs: way.rtt.value,
  rttSpreadMs: Math.max(way.rtt.high - way.rtt.value, way.rtt.value - way.rtt.low),
  wired: facts.endpoint.connection && facts.endpoint.connection === 'wired',
  browserClient: facts.endpoint.clientKind === 'browser',
  thinClient: facts.endpoint.platform === 'thin',
  alwaysOn: facts.endpoint.alwaysOn && !isOffInTheMorning(facts, s),
  secondFactor: asksSecondFactor(facts, s),
  preSession: s['security.preSession'],
  singleSignOn: signsOnByItself(facts, s),
  types: typesFirst(facts, s),
  typesAt: typesAgainAt(facts, s),
  taps: tapsCard(facts, s),
  quic: facts.gateway.udp !== false && session.quic,
  entryLink: s['session.entryLink'],
  resources: facts.resources,
  startOnly: s['session.startOnly'],
  hostAsleep: host?.power === 'asleep' && facts.pool.spareHosts === 0,
  hostOff: host?.power === 'off',
  profileMB: facts.resource.profileMB ?? 0,
  profileHighMB: facts.resource.profileMB ?? facts.estate.assumed.signon.profileHighMB,
  profileMbps,
  deliveredMB: facts.resource.deliveredMB,
  publishedApp: facts.resource.kind === 'app',
  firstFrameBytes: demand.firstFrameBytes,
  availableMbps: way.available?.value ?? assumedMbps,
  rateKnown: way.available !== null,
  storm: way.storm,
  stormMinutes: facts.estate.assumed.people.stormMinutes,
  assumed: facts.estate.assumed.signon,
  measured: facts.timed?.value,
});
