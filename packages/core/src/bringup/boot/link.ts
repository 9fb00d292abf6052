import { securityNames } from '../wifi/joining.js';
import { sealedAlike } from './secret.js';
import type { BootFacts } from './facts.js';
import type { Run, StepEnd } from './run.js';

/** Weakest signal that anything is joined with, dBm [IEEE 802.11-2020 table 19-23: the slowest rate in 20 MHz]. */
export const weakestDbm = -82;

/** Whether it is connected: by its cable, or by joining the Wi-Fi of its place. */
export function linkUp(run: Run, { endpoint, location, assumed }: BootFacts): StepEnd {
  const { signon, bringup } = assumed;
  if (endpoint.connection !== 'wifi') {
    run.wait(signon.wiredS * 1000);
    if (endpoint.cable === false) return { cause: 'cable out', words: {} };
    run.say('here', 'the cable has a link');
    return { detail: 'by cable' };
  }
  const [has, wanted] = [endpoint.wifi ?? {}, location.wifi ?? {}];
  const words = { place: location.name, network: wanted.name ?? 'the place’s own', has: has.name ?? '' };
  if (has.name === undefined) {
    run.wait(bringup.joinS * 1000);
    return { cause: 'wifi not set', words };
  }
  run.say('sent', `looks for the network “${has.name}”`);
  const broken = refused(endpoint.wifiSignalDbm, has, wanted, words, run);
  run.wait((broken ? bringup.joinS : signon.wifiS) * 1000);
  if (broken) return broken;
  run.say('received', `joined “${has.name}”`);
  return { detail: `by Wi-Fi, “${has.name}”` };
}

type Wifi = NonNullable<BootFacts['location']['wifi']>;
/** Why a network does not let the device in; null where it does, or where nobody said enough to tell. */
function refused(
  signalDbm: number | undefined,
  has: Wifi,
  wanted: Wifi,
  words: { place: string; network: string; has: string },
  run: Run,
): StepEnd | null {
  if (wanted.name !== undefined && wanted.name !== has.name)
    return { cause: wanted.name.toLowerCase() === has.name?.toLowerCase() ? 'wifi name in other letters' : 'wifi name differs', words };
  if (signalDbm !== undefined && signalDbm < weakestDbm)
    return { cause: 'wifi too weak', words: { ...words, has: String(signalDbm), network: String(weakestDbm) } };
  const [own, theirs] = [has.security, wanted.security];
  if (own !== undefined && theirs !== undefined && own !== theirs)
    return { cause: 'wifi security differs', words: { ...words, has: securityNames[own], network: securityNames[theirs] } };
  if (theirs === 'nopass' || wanted.key === undefined) return null;
  if (has.key === undefined) return { cause: 'wifi key missing', words };
  const alike = sealedAlike(has.key, wanted.key);
  if (alike === null) run.note('cannot compare', 'One of the two keys of the Wi-Fi is sealed and the other is not: they are not compared.');
  if (alike === 'in other letters') return { cause: 'wifi key in other letters', words };
  return alike === false ? { cause: 'wifi key wrong', words } : null;
}
