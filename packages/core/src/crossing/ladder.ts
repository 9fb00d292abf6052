import type { SignonSeconds } from '../assumed/index.js';
import type { Bay, Gateway, Host } from '@underpass/contracts';
import { compareVersions, type SettingValues } from '../settings/index.js';
import type { CrossingFacts } from './facts.js';
import { closedGate } from './requirementFacts.js';
import type { Way } from './way.js';
import { straightFromOutside } from './wayIn.js';

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
  | 'no way straight from outside'
  | 'second factor too slow'
  | 'gate closed'
  | 'no free place'
  | 'hosts off';

/** How a step stands on a crossing. */
export interface Step {
  name: StepName;
  bay: Bay;
  /** `not known`: it may break, and nobody knows; `assumed`: taken to pass, since nothing known of it could break it. */
  state: 'passed' | 'broken' | 'not reached' | 'not known' | 'assumed';
  reason: BreakReason | null;
}

/** What has to be known for a step that may break. */
export type StepDoubt =
  | 'client version'
  | 'reach of the gateway'
  | 'certificate'
  | 'TLS of the gateway'
  | 'second factor time'
  | 'power of the hosts'
  | 'places of the hosts';

/** Time a person and the line need for the second factor: the person's, and 4 round trips, s. */
export const secondFactorNeedsS = (
  rtt: { value: number; low: number; high: number },
  { codeS, codeLowS, codeHighS }: SignonSeconds,
): { value: number; low: number; high: number } => ({
  value: codeS + (4 * rtt.value) / 1000,
  low: codeLowS + (4 * rtt.low) / 1000,
  high: codeHighS + (4 * rtt.high) / 1000,
});

/** Whether a second factor is asked: as the gateway does, of everybody, or not on the inside network. */
export function asksSecondFactor({ gateway, location }: Pick<CrossingFacts, 'gateway' | 'location'>, s: SettingValues): boolean {
  switch (s['security.secondFactor']) {
    case 'always':
      return true;
    case 'not inside':
      return gateway.secondFactor && !location.inside;
    case 'as the gateway asks':
      return gateway.secondFactor;
  }
}

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
  if (!covers(gateway)) return 'certificate for another name';
  if (certificate.trust === 'none' || (certificate.trust === 'organisation' && !managed)) return 'certificate not trusted';
  return null;
}

const covered = new WeakMap<Gateway, boolean>();
/** Whether its certificate is for the name a gateway is reached by: the same for every crossing. */
function covers(gateway: Gateway): boolean {
  let known = covered.get(gateway);
  if (known === undefined) {
    known = gateway.certificate?.names.some((name) => nameCovers(name, gateway.address)) ?? false;
    covered.set(gateway, known);
  }
  return known;
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

/** Highest TLS version of a gateway; undefined where nobody told. One that asks for 1.3 at least speaks it. */
export const highestTls = ({ tlsHighest, tlsMinimum }: Gateway): '1.2' | '1.3' | undefined =>
  tlsHighest ?? (tlsMinimum === '1.3' ? '1.3' : undefined);

/** Ways to sign in that the client can and the settings allow; none where they ask for one that it cannot. */
export function waysToSignIn(s: SettingValues, canPreSession: boolean): readonly string[] {
  const client = canPreSession ? ['pre-session', 'tls'] : ['tls'];
  return s['security.preSession'] ? client.filter((mode) => mode === 'pre-session') : client;
}

function negotiates(facts: CrossingFacts, s: SettingValues, canPreSession: boolean): boolean {
  const asked = waysToSignIn(s, canPreSession);
  return (
    s['security.tlsMinimum'] <= (highestTls(facts.gateway) ?? '1.3') &&
    asked.some((mode) => facts.pool.securityModes.includes(mode as 'tls')) &&
    facts.gateway.securityModes.some((mode) => asked.includes(mode))
  );
}

type Quiet = Exclude<Step['state'], 'broken'>;
const quietSteps: Record<Quiet, Partial<Record<StepName, Step>>> = { passed: {}, 'not reached': {}, 'not known': {}, assumed: {} };
/** A step without a reason, the same object each time. */
function quiet(name: StepName, bay: Bay, state: Quiet): Step {
  return (quietSteps[state][name] ??= { name, bay, state, reason: null });
}

/** The ladder, and what has to be known for the steps that may break. */
export interface Ladder {
  steps: Step[];
  /** The first step that breaks. */
  broken: Step | null;
  /** Where none breaks, the first that may. */
  doubted: Step | null;
  doubts: StepDoubt[];
}

/** The ladder of steps in the order they happen; the first broken one is the answer, later ones are "not reached". */
export function ladderOf(facts: CrossingFacts, s: SettingValues, way: Way, host: Host | undefined, canPreSession: boolean): Ladder {
  const { endpoint, gateway, pool, evidence } = facts;
  const steps: Step[] = [];
  const doubts: StepDoubt[] = [];
  let broken: Step | null = null;
  let doubted: Step | null = null;
  const step = (name: StepName, bay: Bay, reason: BreakReason | null, doubt: StepDoubt | null = null, isAssumed = false) => {
    if (broken) steps.push(quiet(name, bay, 'not reached'));
    else if (reason) steps.push((broken = { name, bay, state: 'broken', reason }));
    else {
      if (doubt && !doubts.includes(doubt)) doubts.push(doubt);
      const next = quiet(name, bay, doubt ? 'not known' : isAssumed ? 'assumed' : 'passed');
      if (doubt) doubted ??= next;
      steps.push(next);
    }
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
    floor !== null && version === undefined ? 'client version' : null,
  );
  // whatever was measured from the desk, timed or left open went through name and port
  const reached =
    evidence.roundTrips ?? evidence.datagrams ?? evidence.downMbps ?? evidence.upMbps ?? evidence.addedDownMs ?? facts.timed ?? null;
  const unreached = reached === null && !facts.hasSession ? 'reach of the gateway' : null;
  step('name resolves', 'Local network', null, unreached);
  step('port reachable', 'Link', straightFromOutside(facts, s) ? 'no way straight from outside' : null, unreached);
  const trust = s['security.certificateTrust'];
  step(
    'certificate trusted',
    'Gateway',
    certificateFault(gateway, trust, facts.atMs, endpoint.ownership === 'managed'),
    gateway.certificate || trust === 'warn' ? null : 'certificate',
  );
  step(
    'security negotiated',
    'Gateway',
    negotiates(facts, s, canPreSession) ? null : 'no common security mode',
    s['security.tlsMinimum'] > '1.2' && highestTls(gateway) === undefined ? 'TLS of the gateway' : null,
  );
  const timeoutS = s['security.secondFactorTimeoutS'];
  const needs = asksSecondFactor(facts, s) ? secondFactorNeedsS(way.rtt, facts.estate.assumed.signon) : null;
  const tooSlow = needs !== null && needs.low > timeoutS;
  step(
    'signed in',
    'Gateway',
    tooSlow ? 'second factor too slow' : closedGate(facts, s, host) ? 'gate closed' : null,
    needs !== null && needs.high > timeoutS ? 'second factor time' : null,
  );
  // whoever has a session there already takes it up again, and needs no place
  const full = !host || (!facts.hasSession && host.used !== undefined && host.used >= host.places);
  step(
    'host ready',
    'Host',
    full ? 'no free place' : host.power === 'off' ? 'hosts off' : null,
    host?.power === undefined ? 'power of the hosts' : host.used === undefined && !facts.hasSession ? 'places of the hosts' : null,
  );
  step('session created', 'Host', null, null, true);
  step('profile attached', 'Workspace', null, null, true);
  return { steps, broken, doubted: broken ? null : doubted, doubts };
}
