import type { CrossingFacts } from './facts.js';
import { followed, type Follower, type SettingValues } from '../settings/index.js';

/** IPv4, UDP and a TLS record around each packet: 20 + 8 + 29 bytes [RFC 791, RFC 768, RFC 9147 §4]. */
const headerBytes = 57;
/** A tunnel puts its own around that: IPv4, UDP, and its record; common practice, no source. */
const tunnelBytes = 60;
const usualMtu = 1500;

/** What goes through the tunnel of a device, where all its traffic takes one. */
export interface Tunnelled {
  session: boolean;
  calls: boolean;
}
const [inside, callsOutside]: Tunnelled[] = [
  { session: true, calls: true },
  { session: true, calls: false },
];
const outside: Tunnelled = { session: false, calls: false };
/** What of a device goes through a tunnel. */
export function tunnelledOf(s: SettingValues, device: Follower): Tunnelled {
  // mostly there is none, and this is asked for with every crossing
  if (s['transport.wayIn'] !== 'tunnel' || followed(s, 'transport.wayIn', device) !== 'tunnel') return outside;
  const past = followed(s, 'transport.pastTunnel', device);
  return past === 'calls and session' ? outside : ((past === 'calls' ? callsOutside : inside) as Tunnelled);
}

/** Bytes on the line for each byte of a session, by the largest packet and what is put around it. @param s null: as is usual */
export function headersShare(s: SettingValues | null, device: Follower): number {
  const mtu = s ? s['transport.mtu'] : usualMtu;
  const around = headerBytes + (s && tunnelledOf(s, device).session ? tunnelBytes : 0);
  return mtu / (mtu - around);
}

/** Straight to the host, from where there is no way straight to it. */
export const straightFromOutside = ({ location, endpoint }: Pick<CrossingFacts, 'location' | 'endpoint'>, s: SettingValues): boolean =>
  s['transport.wayIn'] === 'straight' && !location.inside && followed(s, 'transport.wayIn', endpoint) === 'straight';

/** Whether a session goes past the gateway: on the inside network, where the settings say so. */
export const passesGateway = ({ location, endpoint }: Pick<CrossingFacts, 'location' | 'endpoint'>, s: SettingValues): boolean =>
  location.inside &&
  (s['transport.gatewayBypass'] || (s['transport.wayIn'] === 'straight' && followed(s, 'transport.wayIn', endpoint) === 'straight'));

/** What a tunnel adds one way, ms: to wrap and unwrap; from memory, assumed. */
export const tunnelMs = 2;
/** What a call through a tunnel takes longer, there and back: to its end and on from there; assumed, as the way on from us is. */
export const callDetourMs = 40;
