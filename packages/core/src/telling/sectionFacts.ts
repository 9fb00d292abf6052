import { seenText } from '../redirection/index.js';
import type { Bay } from '@underpass/contracts';
import { clock } from '../day/index.js';
import type { Estimate } from '../units/index.js';
import type { CrossingFacts } from '../crossing/facts.js';
import type { CrossingFigures } from '../crossing/figures.js';
import { figure } from '../crossing/finding.js';
import { plural } from '../units/words.js';

/** A fact shown in a bay, with where it comes from. */
export interface BayFact {
  source: Estimate['source'];
  text: string;
  /** By whom, when, how many samples. */
  note: string;
  notUsed?: string;
}

const fact = (source: BayFact['source'], text: string, note = '', notUsed?: string): BayFact => ({
  source,
  text,
  note,
  ...(notUsed ? { notUsed } : {}),
});
const codecWords: Record<string, string> = { h264: 'H.264', hevc: 'H.265', av1: 'AV1', vp9: 'VP9' };
const deviceWords: Record<string, string> = {
  'thin-client': 'Thin client',
  laptop: 'Laptop',
  'desktop-computer': 'Desktop computer',
  tablet: 'Tablet',
  phone: 'Phone',
  kiosk: 'Kiosk',
};

/** Whether an endpoint's figures were reported by it, and how that is told. */
const toldOf = ({ endpoint }: CrossingFacts): { of: 'reported' | 'declared'; when: string } =>
  endpoint.reportedAt
    ? { of: 'reported', when: `${endpoint.name}, ${endpoint.reportedAt.slice(0, 10)}` }
    : { of: 'declared', when: 'typed' };

type FactsOfBay = (facts: CrossingFacts, f: CrossingFigures) => BayFact[];

const deskFacts: FactsOfBay = (facts, f) => {
  const { evidence } = facts;
  const { of, when } = toldOf(facts);
  const list: BayFact[] = [];
  const screens = f.session.native;
  const source = evidence.screens ? 'measured' : of;
  const note = evidence.screens?.note ?? when;
  if (!screens) list.push(fact('assumed', '1 × 1920 × 1080', 'our default; the screens are not known'));
  else
    for (const size of new Set(screens.map((s) => `${s.widthPx} × ${s.heightPx}`))) {
      const n = screens.filter((s) => `${s.widthPx} × ${s.heightPx}` === size).length;
      list.push(fact(source, n > 1 ? `${n} × ${size}` : size, note));
    }
  const names = f.desk.filter((item) => item.peripheral).map((item) => item.name);
  if (names.length) list.push(fact(of, names.join(', '), when));
  const { plugged } = evidence;
  if (plugged && plugged.value.length > 0) list.push(fact('measured', seenText(plugged.value), plugged.note));
  const hz = screens?.find((s) => s.refreshHz)?.refreshHz;
  if (hz) list.push(fact(source, `${figure(hz)} Hz`, note));
  return list;
};

const endpointFacts: FactsOfBay = (facts) => {
  const { endpoint, evidence } = facts;
  const { of, when } = toldOf(facts);
  const list: BayFact[] = [];
  const taken = (...fields: string[]) => fields.some((field) => endpoint.assumed?.includes(field));
  list.push(
    taken('deviceClass', 'ownership')
      ? fact(
          'assumed',
          `${deviceWords[endpoint.deviceClass] ?? endpoint.deviceClass}, ${endpoint.ownership}`,
          'taken to be so; nobody said it',
        )
      : fact(of, `${deviceWords[endpoint.deviceClass] ?? endpoint.deviceClass}, ${endpoint.ownership}`, when),
  );
  const browser = evidence.browser;
  list.push(
    browser && endpoint.clientKind === 'browser'
      ? fact('measured', `${browser.value.kind} ${browser.value.version}`, browser.note)
      : fact(
          taken('clientKind') ? 'assumed' : of,
          `${endpoint.clientKind === 'thin-client firmware' ? 'Firmware' : endpoint.clientKind === 'browser' ? 'Browser' : 'Client'} ${endpoint.clientVersion ?? 'not known'}`,
          when,
        ),
  );
  // what a browser answers holds for the browser
  const answered = endpoint.clientKind === 'browser' ? evidence.decoders : undefined;
  const decoders = answered?.value ?? endpoint.decoders;
  if (decoders)
    list.push(
      fact(
        answered ? 'measured' : of,
        decoders.length ? `Decodes ${[...new Set(decoders.map((d) => codecWords[d.codec] ?? d.codec))].join(', ')}` : 'No hardware decoder',
        answered?.note ?? when,
      ),
    );
  if (evidence.scene)
    list.push(
      fact(
        'measured',
        `Drawn by ${evidence.scene.value.drawnBy ?? 'unknown'}, ${plural(Math.round(evidence.scene.value.averageFps), 'frame')}`,
        evidence.scene.note,
      ),
    );
  if (endpoint.memoryMB) list.push(fact(of, `${figure(endpoint.memoryMB / 1024)} GB memory`, when));
  return list;
};

const localNetworkFacts: FactsOfBay = (facts) => {
  const { endpoint, evidence, location } = facts;
  const { of, when } = toldOf(facts);
  const list: BayFact[] = [];
  list.push(
    endpoint.connection
      ? fact(
          of,
          endpoint.connection === 'wired'
            ? 'Wired'
            : `Wi-Fi${endpoint.wifiSignalDbm === undefined ? '' : `, ${endpoint.wifiSignalDbm} dBm`}`,
          when,
        )
      : fact('assumed', 'Wired or Wi-Fi', 'not known'),
  );
  const trips = evidence.roundTrips;
  if (trips) list.push(fact('measured', `P95 ${Math.round(trips.value.p95Ms)} ms, idle`, `${trips.note}, ${trips.samples} samples`));
  if (location.addressRange) list.push(fact('declared', location.addressRange, location.name));
  return list;
};

/** A figure as it was found, and beside it what it comes to in the hour that counts. */
function found(estimate: Estimate, as: number | undefined, hour: number, unit: string): { value: number; note: string } {
  const { value, note } = estimate;
  if (as === undefined || Math.abs(as - value) < 0.005 * value) return { value, note };
  return { value: as, note: `${note}; ${figure(value)} ${unit} at ${clock(hour)}` };
}

const linkFacts: FactsOfBay = (facts, f) => {
  const { evidence, line } = facts;
  const list: BayFact[] = [];
  const { down, rtt, loss, up, spreadMs, busyMs } = f.way;
  const lost = fact(
    loss.source,
    f.way.lossKnown ? `${figure(loss.value)} % lost` : `0 to ${figure(loss.high)} % lost`,
    `${loss.note}${loss.samples ? `, ${loss.samples} samples, ${figure(loss.low)} to ${figure(loss.high)} %` : ''}`,
  );
  const rateFound = (rate: Estimate, taken: number | undefined, typed: number | undefined) =>
    found(rate, rate.source === 'measured' ? taken : rate.source === 'declared' ? typed : undefined, f.way.hour, 'Mbit/s');
  const asDown = down && rateFound(down, evidence.downMbps?.value, line.downMbps);
  const asUp = up && rateFound(up, evidence.upMbps?.value, line.upMbps);
  const asRtt = found(rtt, rtt.source === 'measured' ? evidence.roundTrips?.value.medianMs : undefined, f.way.rttHour, 'ms');
  list.push(
    down && asDown
      ? fact(
          down.source,
          `Down ${figure(asDown.value)} Mbit/s`,
          asDown.note,
          down.notUsed ? `${figure(down.notUsed.value)} Mbit/s ${down.notUsed.source}, not used` : undefined,
        )
      : fact('assumed', 'Rate not known', 'nothing measured or typed'),
  );
  list.push(
    fact(
      rtt.source,
      `Round trip ${Math.round(asRtt.value)} ms`,
      `${asRtt.note}${rtt.samples ? `, ${rtt.samples} samples, ${figure(rtt.low)} to ${figure(rtt.high)} ms` : ''}`,
      rtt.notUsed ? `${figure(rtt.notUsed.value)} ms ${rtt.notUsed.source}, not used` : undefined,
    ),
  );
  if (facts.others.count > 0)
    list.push(
      fact(
        'declared',
        `${f.way.peopleAtOnce} share it at once`,
        `${facts.others.count + 1} people, ${Math.round(facts.others.activeShare * 100)} % active`,
      ),
    );
  else if (evidence.datagrams?.value.passes === false) list.push(fact('measured', 'UDP does not pass', evidence.datagrams.note));
  else list.push(lost);
  if (up && asUp) list.push(fact(up.source, `Up ${figure(asUp.value)} Mbit/s`, asUp.note));
  if (!list.includes(lost)) list.push(lost);
  if (spreadMs.high >= 1)
    list.push(
      fact(
        spreadMs.source,
        `Varies by ${Math.round(spreadMs.source === 'assumed' ? spreadMs.high : spreadMs.value)} ms`,
        `worst twentieth above the median; ${spreadMs.note}`,
      ),
    );
  if (busyMs.high >= 1)
    list.push(
      fact(
        busyMs.source,
        `Load adds ${Math.round(busyMs.source === 'assumed' ? busyMs.high : busyMs.value)} ms`,
        `in the busy hour, ${Math.round(100 * Math.max(f.way.busyShare.down, f.way.busyShare.up))} % full; ${busyMs.note}`,
      ),
    );
  return list;
};

const gatewayFacts: FactsOfBay = (facts, f) => {
  const { gateway, location } = facts;
  const list: BayFact[] = [];
  list.push(fact('declared', gateway.name, gateway.address));
  list.push(
    fact(
      'declared',
      `${location.inside && f.settings['transport.gatewayBypass'] ? 'Direct path' : 'By the gateway'}, ${f.session.transport.toUpperCase()}`,
      f.session.transportBecause ?? '',
    ),
  );
  list.push(
    gateway.certificate
      ? fact(
          'declared',
          `Certificate to ${gateway.certificate.notAfter.slice(0, 4)}`,
          `${gateway.certificate.names.join(', ')}, ${gateway.certificate.notBefore} to ${gateway.certificate.notAfter}`,
        )
      : fact('assumed', 'Certificate not known', ''),
  );
  if (gateway.secondFactor)
    list.push(fact('declared', `Second factor, ${f.settings['security.secondFactorTimeoutS']} s`, 'time until it breaks off'));
  return list;
};

const hostFacts: FactsOfBay = (facts, f) => {
  const { resource, pool } = facts;
  const list: BayFact[] = [];
  const host = f.host;
  if (!host) return [fact('declared', 'No host', pool.name)];
  const hostSource = host.reportedAt ? 'reported' : 'declared';
  const note = host.reportedAt ? `${host.name}, ${host.reportedAt.slice(0, 10)}` : 'typed';
  list.push(fact(hostSource, `${host.name}, ${host.id}`, pool.name));
  list.push(
    host.used === undefined
      ? fact('assumed', 'Places not known', '')
      : fact(hostSource, `${host.places - host.used} of ${host.places} free`, note),
  );
  list.push(
    host.encoderLoad !== undefined
      ? fact(hostSource, `Encoder ${Math.round(host.encoderLoad * 100)} % used`, note)
      : fact('assumed', 'Encoder not known', 'an equal share is taken'),
  );
  if (resource.graphics)
    list.push(
      host.graphics
        ? fact(hostSource, host.graphics.card ? `Card in ${host.graphics.mode} mode` : 'No graphics card', note)
        : fact('assumed', 'Graphics not known', ''),
    );
  return list;
};

const workspaceFacts: FactsOfBay = (facts, f) => {
  const { resource } = facts;
  const list: BayFact[] = [];
  list.push(fact('declared', resource.name, resource.kind));
  if (resource.profileMB)
    list.push(fact('declared', `Profile ${figure(resource.profileMB)} MB`, resource.profileRegion ?? 'beside the hosts'));
  if (resource.calls)
    list.push(fact('declared', f.voice.carried === 'host' ? 'Call sound via host' : 'Call sound offloaded', 'setting media.callOffload'));
  list.push(fact('declared', resource.kind === 'app' ? 'Published app' : 'Whole desktop', ''));
  return list;
};

const factsOfBay: Record<Bay, FactsOfBay> = {
  Desk: deskFacts,
  Endpoint: endpointFacts,
  'Local network': localNetworkFacts,
  Link: linkFacts,
  Gateway: gatewayFacts,
  Host: hostFacts,
  Workspace: workspaceFacts,
};

/** The facts of a bay, most telling first; the drawing shows three, the panel all. */
export const bayFacts = (bay: Bay, facts: CrossingFacts, f: CrossingFigures): BayFact[] => factsOfBay[bay](facts, f);
