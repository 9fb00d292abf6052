import type { Peripheral, PeripheralKind } from '@underpass/contracts';
import { bestOf, type Decision } from '../redirection/index.js';
import { followed, type SettingValues } from '../settings/index.js';
import { carryCosts } from './carrying.js';
import type { DeskItem, DeskReason } from './deskReason.js';
import { decidedOf, deviceName, kindOf } from './devices.js';
import type { CrossingFacts } from './facts.js';
import type { Session } from './session.js';
import type { Way } from './way.js';

/** What a device meets on the way: the round trip where it is known, and what of the line is left for what is sent. */
export type DeviceWay = Pick<Way, 'rtt' | 'rttKnown' | 'availableUp'>;
/** A job of a device that takes this much longer is worth telling, ms; common practice, no source. */
const worthTellingMs = 5000;

/** Whether the way is too slow or too thin for a device, or makes each of its jobs long. */
function onTheWay(
  device: Peripheral,
  decision: Decision['decision'],
  { endpoint }: CrossingFacts,
  s: SettingValues,
  way: DeviceWay,
): DeskReason | null {
  const rttMs = way.rttKnown ? way.rtt.value : null;
  const { mbps, addedMs, bearsMs } = carryCosts(device, decision, { s, endpoint, rttMs });
  if (bearsMs !== null && rttMs !== null && rttMs > bearsMs) return { code: 'way too slow', bearsMs };
  if (mbps !== null && way.availableUp && mbps > way.availableUp.high) return { code: 'way too thin', mbps };
  return addedMs !== null && addedMs >= worthTellingMs ? { code: 'each job longer', seconds: addedMs / 1000 } : null;
}

/** A device told in full as it stands in the session: by the rules, then by the settings of its kind; null for what is no part of the desk's question. */
export function deviceItem(
  device: Peripheral,
  facts: CrossingFacts,
  s: SettingValues,
  session: Session,
  way: DeviceWay | null,
): DeskItem | null {
  const { decision, rule, when } = decidedOf(facts, s, session, device);
  const peripheral = kindOf(device);
  const item = (works: boolean, as: DeskItem['carriedAs'], because: DeskReason | null, meant = false): DeskItem => ({
    ...{ name: deviceName(device), works, carriedAs: as, because, meant, screen: undefined, peripheral, device: device.id },
  });
  // keys and pointer are the session’s own input, whatever a rule says of the device
  if (decision !== 'raw USB' && bestOf(device).carriedAs === 'session input') return item(true, 'session', null);
  switch (decision) {
    case 'session input':
      return item(true, 'session', null);
    case 'local only':
      if (rule) return item(false, 'local only', { code: 'stays local' }, true);
      if (facts.endpoint.clientKind === 'browser' && peripheral)
        return item(false, 'local only', { code: 'client cannot', clientKind: facts.endpoint.clientKind });
      return null;
    case 'not allowed': {
      const because: DeskReason = { code: rule ? 'rule denies' : 'no rule' };
      return item(false, 'not allowed', because, peripheral === 'storage');
    }
    case 'channel':
    case 'raw USB':
    case 'split': {
      const isRaw = decision === 'raw USB';
      const kept =
        isRaw && !facts.gateway.usb ? { code: 'gateway without USB' as const } : peripheral ? keptOut(peripheral, facts, s, session) : null;
      if (kept) return item(false, 'not allowed', kept, peripheral !== undefined && isMeant(peripheral, kept));
      const short = way && onTheWay(device, decision, facts, s, way);
      if (short && short.code !== 'each job longer') return item(false, isRaw ? 'raw USB' : 'channel', short);
      return item(true, isRaw ? 'raw USB' : 'channel', when === 'by hand' ? { code: 'by hand' } : short);
    }
  }
}

const carriers: ReadonlySet<PeripheralKind> = new Set(['storage', 'printer']);
/** What keeps data in is meant; that a client has no way for a stick is not. */
export const isMeant = (peripheral: PeripheralKind, { code }: DeskReason): boolean =>
  code === 'guest' || (code === 'setting forbids' && carriers.has(peripheral)) || (peripheral === 'storage' && code !== 'client cannot');

/** How a peripheral that is told in short is carried. */
export function carriedAs(peripheral: PeripheralKind, s: SettingValues, endpoint: CrossingFacts['endpoint']): DeskItem['carriedAs'] {
  const isRaw = peripheral === 'scanner' || (peripheral === 'camera' && followed(s, 'redirection.camera', endpoint) === 'as raw USB');
  return isRaw ? 'raw USB' : 'channel';
}

/** What keeps a peripheral out of the session; null where nothing does. */
export function keptOut(peripheral: PeripheralKind, facts: CrossingFacts, s: SettingValues, session: Session): DeskReason | null {
  const { endpoint, subject, gateway, resource } = facts;
  if (!session.limits.carries.includes(peripheral)) return { code: 'client cannot', clientKind: endpoint.clientKind };
  if (subject.guest && s['security.guests'] !== 'as everybody' && carriers.has(peripheral)) return { code: 'guest' };
  switch (peripheral) {
    case 'storage':
      if (endpoint.ownership === 'personal' && s['security.personalDevices'] === 'limited') return { code: 'personal device' };
      return followed(s, 'redirection.drives', endpoint) === 'none' ? { code: 'setting forbids' } : null;
    case 'printer':
      return s['redirection.printers'] === 'none' ? { code: 'setting forbids' } : null;
    case 'card-reader':
      return s['redirection.smartCard'] ? null : { code: 'setting forbids' };
    case 'camera':
      if (followed(s, 'redirection.camera', endpoint) === 'not') return { code: 'setting forbids' };
      return carriedAs('camera', s, endpoint) === 'raw USB' && !gateway.usb ? { code: 'gateway without USB' } : null;
    case 'headset': {
      // a call that is handled on the endpoint has its sound there, whatever the session does
      const offloaded = followed(s, 'media.callOffload', endpoint) && resource.calls;
      if (offloaded) return null;
      if (s['sound.play'] !== 'on the endpoint') return { code: 'sound elsewhere' };
      return !s['sound.microphone'] && resource.calls ? { code: 'microphone off' } : null;
    }
    case 'scanner':
      return gateway.usb ? null : { code: 'gateway without USB' };
  }
}
