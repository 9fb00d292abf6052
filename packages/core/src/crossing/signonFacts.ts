import type { Host } from '@underpass/contracts';
import type { SettingValues } from '../settings/index.js';
import type { SignonFacts } from '../signon/index.js';
import type { Demand } from '../picture/index.js';
import type { CrossingFacts } from './facts.js';
import type { Way } from './way.js';

/** What the sign-on of a crossing depends on. */
export const signonFactsOf = (
  facts: CrossingFacts,
  s: SettingValues,
  { way, host, demand, profileMbps }: { way: Way; host: Host | undefined; demand: Pick<Demand, 'firstFrameBytes'>; profileMbps: number },
): SignonFacts => ({
  rttMs: way.rtt.value,
  wired: facts.endpoint.connection !== 'wifi',
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
  profileMbps,
  deliveredMB: facts.resource.deliveredMB,
  publishedApp: facts.resource.kind === 'app',
  firstFrameBytes: demand.firstFrameBytes,
  availableMbps: way.available?.value ?? 5,
  measured: facts.timed?.value,
});
