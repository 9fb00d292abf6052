import type { Host } from '@underpass/contracts';
import type { SettingValues } from '../settings/index.js';
import type { SignonFacts } from '../signon/index.js';
import type { Demand } from '../picture/index.js';
import type { CrossingFacts } from './facts.js';
import type { Way } from './way.js';

/** Rate for the first picture where nothing is known of the line, Mbit/s; assumed. */
const assumedMbps = 5;

/** What the sign-on of a crossing depends on. */
export const signonFactsOf = (
  facts: CrossingFacts,
  s: SettingValues,
  { way, host, demand, profileMbps }: { way: Way; host: Host | undefined; demand: Pick<Demand, 'firstFrameBytes'>; profileMbps: number },
): SignonFacts => ({
  rttMs: way.rtt.value,
  rttSpreadMs: Math.max(way.rtt.high - way.rtt.value, way.rtt.value - way.rtt.low),
  wired: facts.endpoint.connection && facts.endpoint.connection === 'wired',
  browserClient: facts.endpoint.clientKind === 'browser',
  thinClient: facts.endpoint.platform === 'thin',
  alwaysOn: facts.endpoint.alwaysOn,
  secondFactor: facts.gateway.secondFactor,
  preSession: s['security.preSession'],
  singleSignOn: s['session.singleSignOn'] && facts.endpoint.ownership === 'managed',
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
