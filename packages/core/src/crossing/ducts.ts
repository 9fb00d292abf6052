import { functionCodes, sortOf, tripleOf, written, type CarriedAs } from '../redirection/index.js';
import { followed } from '../settings/index.js';
import { carryCosts } from './carrying.js';
import { deskWhy } from './deskReason.js';
import { decidedOf, deviceName } from './devices.js';
import { soundMbps } from './looks.js';
import type { CrossingFacts } from './facts.js';
import type { CrossingFigures } from './figures.js';

/** What goes through, seen end-on: one duct for each function of what is on the desk, and for what every session has. */
export interface Duct {
  name: string;
  direction: 'to the session' | 'back to the desk';
  carriedAs: CarriedAs | 'session';
  /** Asked of the line, Mbit/s. */
  mbps: number;
  exchanges: number;
  /** Added to one job, ms; null where the round trip is not known. */
  addedMs: number | null;
  /** Two take it: whichever comes first keeps it. */
  claimedTwice: boolean;
  rule: string | null;
  why: string;
}

/** Keys and pointer, Mbit/s; from memory, assumed. */
const keysMbps = 0.01;
const pointerMbps = 0.03;
const back = new Set(['printer', 'storage']);

/** The ducts of a crossing: picture, sound, keys and pointer, and every function on the desk, as it is carried. */
export function ductsOf(facts: CrossingFacts, figures: CrossingFigures): Duct[] {
  const { settings: s, session, way, demand, desk } = figures;
  const { endpoint, resource } = facts;
  const rttMs = way.rttKnown ? way.rtt.value : null;
  const own = (name: string, direction: Duct['direction'], mbps: number, why: string, carriedAs: Duct['carriedAs'] = 'session'): Duct => ({
    ...{ name, direction, carriedAs, mbps, exchanges: 0, addedMs: 0, claimedTwice: false, rule: null, why },
  });
  const isHeard = s['sound.play'] === 'on the endpoint';
  const ducts: Duct[] = [
    own('Keyboard', 'to the session', keysMbps, 'the session’s own input'),
    own('Pointer', 'to the session', pointerMbps, 'the session’s own input'),
    own('Picture', 'back to the desk', demand.meanMbps, `${session.codec}, over ${session.transport.toUpperCase()}`),
    own(
      'Sound',
      'back to the desk',
      isHeard ? soundMbps[s['sound.quality']] : 0,
      isHeard ? s['sound.quality'] : `heard ${s['sound.play']}`,
      isHeard ? 'channel' : 'not allowed',
    ),
  ];
  const offloaded = followed(s, 'media.callOffload', endpoint) && resource.calls;
  for (const device of facts.devices) {
    const decided = decidedOf(facts, s, session, device);
    const item = desk.find((each) => each.device === device.id);
    const isSplit = decided.decision === 'split';
    const seen = new Set<string>();
    const distinct = new Set(functionCodes(device).map((codes) => sortOf(codes).name)).size;
    for (const codes of functionCodes(device)) {
      const sort = sortOf(codes);
      if (seen.has(sort.name)) continue;
      seen.add(sort.name);
      const part = { ...device, class: written(codes), interfaces: [written(codes)] };
      const isIn = !isSplit || decided.interfaces?.some((each) => sortOf(tripleOf(each)).name === sort.name);
      const isButton =
        sort.carriedAs === 'raw USB' &&
        codes.class === '03' &&
        functionCodes(device).some(({ class: code }) => code === '01' || code === '0e');
      const carriedAs =
        item?.works === false && decided.decision !== 'local only'
          ? 'not allowed'
          : !isIn || isButton
            ? 'local only'
            : isSplit || (decided.decision === 'channel' && sort.carriedAs !== 'channel')
              ? sort.carriedAs
              : decided.decision;
      const { mbps, exchanges, addedMs } = carryCosts(part, carriedAs, { s, endpoint, rttMs });
      const isKept = item?.works === false && item.because;
      ducts.push({
        name: distinct > 1 ? `${sort.name.slice(0, 1).toUpperCase()}${sort.name.slice(1)}, ${deviceName(device)}` : deviceName(device),
        direction: sort.kind && back.has(sort.kind) ? 'back to the desk' : 'to the session',
        ...{ carriedAs, mbps: mbps ?? 0, exchanges, addedMs },
        claimedTwice: sort.kind === 'camera' && offloaded && carriedAs !== 'not allowed' && carriedAs !== 'local only',
        rule: decided.rule ? (decided.rule.name ?? decided.rule.id) : null,
        why: isKept ? deskWhy(item.because) : decided.why,
      });
    }
  }
  for (const item of desk) {
    if (!item.peripheral || item.device) continue;
    const isCamera = item.peripheral === 'camera';
    ducts.push({
      name: item.name,
      direction: back.has(item.peripheral) ? 'back to the desk' : 'to the session',
      carriedAs: item.carriedAs === 'not known' ? 'not allowed' : item.carriedAs,
      mbps: shortMbps(item.peripheral, facts, figures, item.works === true),
      ...{ exchanges: 0, addedMs: 0 },
      claimedTwice: isCamera && offloaded && item.works === true,
      rule: null,
      why: item.because ? deskWhy(item.because) : 'by the settings; told in short',
    });
  }
  return ducts;
}

/** What a device told in short asks of the line. */
function shortMbps(kind: string, { endpoint }: CrossingFacts, { settings }: CrossingFigures, works: boolean): number {
  if (!works) return 0;
  const asFull = {
    id: 'short',
    endpoint: endpoint.id,
    vid: '0000',
    pid: '0000',
    class: kind === 'camera' ? '0e' : kind === 'headset' ? '01' : '00',
    interfaces: [],
  };
  const raw = kind === 'camera' && followed(settings, 'redirection.camera', endpoint) === 'as raw USB';
  return carryCosts(asFull, raw ? 'raw USB' : 'channel', { s: settings, endpoint, rttMs: null }).mbps ?? 0;
}
