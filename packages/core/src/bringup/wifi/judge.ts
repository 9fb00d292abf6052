import type { Wifi } from '@underpass/contracts';
import { wifiRateAt, wifiSignal } from '../../link/index.js';
import { securityWords } from './joining.js';
import type { Seen } from './scan.js';

/** What a scan says of a network that is wanted. */
export interface ScanVerdict {
  /** For display and voice. */
  verdict: 'good' | 'marginal' | 'poor' | 'not there' | 'cannot be joined';
  /** The strongest of its senders; null where none is there. */
  best: Seen | null;
  /** What is usable at its signal, of all on the channel together, Mbit/s; null where none is there. */
  usableMbps: { lowMbps: number; highMbps: number } | null;
  /** Others heard that share its air. */
  sharing: Seen[];
  /** What is amiss, worst first, each with what to do. */
  tells: { text: string; mend: string }[];
}

/** Weakest that still takes air from others, dBm [IEEE 802.11-2020 17.3.10.6: others are heard from −82 on]. */
const heardDbm = -82;

/** Where the blocks of wider channels begin at 5 and 6 GHz, MHz [IEEE 802.11-2020 annex E, 802.11ax]. */
const bases = [5945, 5735, 5490, 5170];

/** The part of the air that a network takes, MHz. */
function airOf({ frequencyMhz, widthMhz }: Seen): { from: number; to: number } {
  const base = bases.find((each) => frequencyMhz > each);
  if (base === undefined) {
    // below 5 GHz a channel of 20 MHz is 22 wide as it is sent [IEEE 802.11-2020 15.4.4.5]
    const half = Math.max(widthMhz, 22) / 2;
    return { from: frequencyMhz - half, to: frequencyMhz + half };
  }
  // a wider channel is the block that its first 20 MHz lie in
  const from = base + Math.floor((frequencyMhz - 10 - base) / widthMhz) * widthMhz;
  return { from, to: from + widthMhz };
}

/** Whether two take air from each other: their channels overlap, and the other is heard. */
export function overlaps(one: Seen, other: Seen): boolean {
  if (other.signalDbm < heardDbm) return false;
  const [a, b] = [airOf(one), airOf(other)];
  return a.from < b.to && b.from < a.to;
}

/**
 * What a scan says of the network a device is to join: whether it is there under its name and can be joined, how strong, on which channel
 * and with whom it shares the air, and whether that does for display and voice: from −67 dBm on well, from −75 barely (common practice, no source).
 */
export function judgeScan(seen: readonly Seen[], wanted: Pick<Wifi, 'name' | 'security'>): ScanVerdict {
  const name = wanted.name ?? '';
  const own = seen.filter((each) => each.name === name).sort((a, b) => b.signalDbm - a.signalDbm);
  const [best] = own;
  if (!best) return { verdict: 'not there', best: null, usableMbps: null, sharing: [], tells: [absent(seen, name)] };
  const sharing = seen
    .filter((each) => each !== best && each.name !== name && overlaps(best, each))
    .sort((a, b) => b.signalDbm - a.signalDbm);
  const tells: ScanVerdict['tells'] = [];
  const joined = joins(best, wanted.security);
  if (!joined && wanted.security !== undefined)
    tells.push({
      text: `“${name}” is ${best.security === null ? 'one with a sign-in of its own' : securityWords[best.security]}; the device is set to ${securityWords[wanted.security]}.`,
      mend:
        best.security === null
          ? 'Use another network: a key alone does not join this one.'
          : `Set the device to ${securityWords[best.security]}.`,
    });
  const { goodDbm, poorDbm } = wifiSignal;
  const stronger = own.find((each) => each.frequencyMhz > 3000);
  if (best.signalDbm < goodDbm)
    tells.push({
      text: `It arrives with ${best.signalDbm} dBm; wanted are ${goodDbm} for display and voice${best.signalDbm < poorDbm ? `, and below ${poorDbm} it breaks off` : ''}.`,
      mend: 'Bring the device or an access point nearer, or plug a cable in.',
    });
  if (best.frequencyMhz < 3000)
    tells.push(
      stronger && stronger.signalDbm >= goodDbm
        ? {
            text: `It is joined at 2.4 GHz, channel ${best.channel}, although 5 GHz arrives with ${stronger.signalDbm} dBm.`,
            mend: 'Let the device prefer 5 GHz.',
          }
        : {
            text: `It is there at 2.4 GHz alone, or too weak at 5 GHz.`,
            mend: 'Switch 5 GHz on at the access point, or bring one nearer.',
          },
    );
  if (best.frequencyMhz < 3000 && ![1, 6, 11].includes(best.channel))
    tells.push({
      text: `Channel ${best.channel} lies between those that do not overlap.`,
      mend: 'Put the access point on channel 1, 6 or 11.',
    });
  if (sharing.length > 0)
    tells.push({
      text: `${sharing.length === 1 ? 'One other network shares' : `${sharing.length} other networks share`} its air on channel ${best.channel}, the strongest with ${sharing[0]?.signalDbm} dBm.`,
      mend: `Put the access point on ${best.frequencyMhz < 3000 ? 'another of the channels 1, 6 and 11, or on 5 GHz' : 'another channel'}.`,
    });
  const strength = best.signalDbm >= goodDbm ? 'good' : best.signalDbm >= poorDbm ? 'marginal' : 'poor';
  return { verdict: joined ? strength : 'cannot be joined', best, usableMbps: wifiRateAt(best.signalDbm), sharing, tells };
}

/** Whether a device that is set so joins it. */
function joins({ security, both }: Seen, set: Wifi['security']): boolean {
  if (set === undefined) return security !== null;
  return security === set || (both && set === 'WPA');
}

function absent(seen: readonly Seen[], name: string): ScanVerdict['tells'][number] {
  const bare = (text: string) => text.trim().toLowerCase();
  const near = seen.find((each) => each.name !== '' && bare(each.name) === bare(name));
  if (near)
    return {
      text: `“${name}” is not there; “${near.name}” is. Capital letters and spaces count.`,
      mend: `Write the name as “${near.name}”.`,
    };
  const hidden = seen.filter((each) => each.name === '').length;
  if (hidden > 0)
    return {
      text: `“${name}” is not there. ${hidden === 1 ? 'One network does' : `${hidden} networks do`} not say a name: it may be one of them.`,
      mend: 'Type the name by hand, marked as hidden.',
    };
  const others = seen.length === 1 ? 'one other network is' : `${seen.length} other networks are`;
  return {
    text: `“${name}” is not there; ${seen.length === 0 ? 'nor is any other' : others}.`,
    mend: 'Is the access point on, and does it reach here?',
  };
}
