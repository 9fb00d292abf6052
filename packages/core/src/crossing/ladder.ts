import type { Bay, Gateway, Host } from '@underpass/contracts';
import { compareVersions, type SettingValues } from '../settings/index.js';
import type { CrossingFacts } from './facts.js';
import { closedGate } from './requirementFacts.js';
import type { Way } from './way.js';

/** The steps until a session is there, in the order they happen. */
export const stepNames = [
  'entitled',
  'publication visible',
  'client accepted',
  'name resolves',
  'port reachable',
  'certificate trusted',
  'security negotiated',
  'signed in',
  'host ready',
  'session created',
  'profile attached',
] as const;
/** A step until a session is there. */
export type StepName = (typeof stepNames)[number];

/** Why a step breaks; findings build on these. */
export type BreakReason =
  | 'not entitled'
  | 'publication unattached'
  | 'personal device refused'
  | 'client too old'
  | 'certificate expired'
  | 'certificate not yet valid'
  | 'certificate for another name'
  | 'certificate not trusted'
  | 'no common security mode'
  | 'second factor too slow'
  | 'gate closed'
  | 'no free place'
  | 'hosts off';

/** How a step stands on a crossing. */
export interface Step {
  name: StepName;
  bay: Bay;
  state: 'passed' | 'broken' | 'not reached' | 'assumed';
  reason: BreakReason | null;
}

/** Time a person and the line need for the second factor: 10 s to read and type it (common practice) and 4 round trips, s. */
export const secondFactorNeedsS = (rttMs: number): number => 10 + (4 * rttMs) / 1000 + (rttMs > 300 ? 3 : 0);

const days = new Map<string, number>();
/** Day as ms since 1970, remembered, since the same few dates are read for every crossing. */
export function dayMs(day: string): number {
  let known = days.get(day);
  if (known === undefined) days.set(day, (known = Date.parse(`${day}T00:00:00Z`)));
  return known;
}

/** Whether a host name is covered by a certificate's name; a wildcard stands for one label [RFC 6125 §6.4.3]. */
export function nameCovers(pattern: string, host: string): boolean {
  const [p, h] = [pattern.toLowerCase(), host.toLowerCase()];
  if (p === h) return true;
  return p.startsWith('*.') && h.includes('.') && h.slice(h.indexOf('.')) === p.slice(1);
}

function certificateFault(gateway: Gateway, trust: 'reject' | 'warn', atMs: number, managed: boolean): BreakReason | null {
  const certificate = gateway.certificate;
  if (!certificate || trust === 'warn') return null;
  if (atMs < dayMs(certificate.notBefore)) return 'certificate not yet valid';
  if (atMs >= dayMs(certificate.notAfter) + 86_400_000) return 'certificate expired';
  if (!certificate.names.some((name) => nameCovers(name, gateway.address))) return 'certificate for another name';
  if (certificate.trust === 'none' || (certificate.trust === 'organisation' && !managed)) return 'certificate not trusted';
  return null;
}

/** The floor that counts for this client: the highest of gateway, pool and setting, with who asks for it. */
export function versionFloor(facts: CrossingFacts, s: SettingValues): { version: string; by: string } | null {
  const kind = facts.endpoint.clientKind;
  let floor: { version: string; by: string } | null = null;
  const consider = (version: string | undefined, by: string) => {
    if (version !== undefined && version !== '0' && (!floor || compareVersions(version, floor.version) > 0)) floor = { version, by };
  };
  consider(facts.gateway.clientFloors[kind], facts.gateway.name);
  consider(facts.pool.clientFloors[kind], facts.pool.name);
  if (kind !== 'browser') consider(s['client.versionFloor'], 'the settings');
  return floor;
}

function negotiates(facts: CrossingFacts, s: SettingValues, canPreSession: boolean): boolean {
  const client = canPreSession ? ['pre-session', 'tls'] : ['tls'];
  const asked = s['security.preSession'] ? client.filter((mode) => mode === 'pre-session') : client;
  const tls = s['security.tlsMinimum'] <= facts.gateway.tlsMinimum || facts.gateway.tlsMinimum === '1.2';
  return (
    tls &&
    asked.some((mode) => facts.pool.securityModes.includes(mode as 'tls')) &&
    facts.gateway.securityModes.some((mode) => asked.includes(mode))
  );
}

const passed = new Map<StepName, Step>();
const taken = new Map<StepName, Step>();
const notReached = new Map<StepName, Step>();
/** A step without a reason, the same object each time. */
function quiet(name: StepName, bay: Bay, state: 'passed' | 'not reached' | 'assumed'): Step {
  const byState = state === 'passed' ? passed : state === 'assumed' ? taken : notReached;
  let known = byState.get(name);
  if (!known) byState.set(name, (known = { name, bay, state, reason: null }));
  return known;
}

/** The ladder of steps in the order they happen; the first broken one is the answer, later ones are "not reached". */
export function ladderOf(facts: CrossingFacts, s: SettingValues, way: Way, host: Host | undefined, canPreSession: boolean): Step[] {
  const { endpoint, gateway, pool } = facts;
  const steps: Step[] = [];
  let broken = false;
  const step = (name: StepName, bay: Bay, reason: BreakReason | null, isAssumed = false) => {
    steps.push(
      reason && !broken
        ? { name, bay, state: 'broken', reason }
        : quiet(name, bay, broken ? 'not reached' : isAssumed ? 'assumed' : 'passed'),
    );
    broken ||= reason !== null;
  };
  step('entitled', 'Workspace', facts.entitled ? null : 'not entitled');
  step('publication visible', 'Workspace', facts.portal ? null : 'publication unattached');
  const floor = versionFloor(facts, s);
  const version = endpoint.clientVersion;
  const personal = endpoint.ownership === 'personal' && (pool.managedOnly || s['security.personalDevices'] === 'refused');
  const tooOld = floor !== null && version !== undefined && compareVersions(version, floor.version) < 0;
  step(
    'client accepted',
    'Endpoint',
    personal ? 'personal device refused' : tooOld ? 'client too old' : null,
    floor !== null && version === undefined,
  );
  const reached = facts.evidence.roundTrips !== undefined;
  step('name resolves', 'Local network', null, !reached);
  step('port reachable', 'Link', null, !reached);
  step(
    'certificate trusted',
    'Gateway',
    certificateFault(gateway, s['security.certificateTrust'], facts.atMs, endpoint.ownership === 'managed'),
    !gateway.certificate,
  );
  step('security negotiated', 'Gateway', negotiates(facts, s, canPreSession) ? null : 'no common security mode');
  const timeoutS = s['security.secondFactorTimeoutS'];
  step(
    'signed in',
    'Gateway',
    gateway.secondFactor && secondFactorNeedsS(way.rtt.value) > timeoutS
      ? 'second factor too slow'
      : closedGate(facts, s, host)
        ? 'gate closed'
        : null,
  );
  const noPlace = !host || (host.used ?? 0) >= host.places;
  step(
    'host ready',
    'Host',
    noPlace ? 'no free place' : host.power === 'off' ? 'hosts off' : null,
    host?.used === undefined || host.power === undefined,
  );
  step('session created', 'Host', null, true);
  step('profile attached', 'Workspace', null, true);
  return steps;
}
