import { bad, good, type Result } from '../units/result.js';

/** Generations of Wi-Fi by their PHY: 802.11n (ht), ac (vht) and ax (he). */
export type WifiStandard = 'ht' | 'vht' | 'he';

/** Modulation and coding by MCS index: bits per subcarrier and stream, and code rate [IEEE 802.11-2020 tables 19-27 ff., 802.11ax table 27-55 ff.]. */
const schemes: readonly [bits: number, rate: number][] = [
  [1, 1 / 2],
  [2, 1 / 2],
  [2, 3 / 4],
  [4, 1 / 2],
  [4, 3 / 4],
  [6, 2 / 3],
  [6, 3 / 4],
  [6, 5 / 6],
  [8, 3 / 4],
  [8, 5 / 6],
  [10, 3 / 4],
  [10, 5 / 6],
];
const dataSubcarriers: Record<WifiStandard, Record<number, number>> = {
  ht: { 20: 52, 40: 108 },
  vht: { 20: 52, 40: 108, 80: 234, 160: 468 },
  he: { 20: 234, 40: 468, 80: 980, 160: 1960 },
};
const highestMcs: Record<WifiStandard, number> = { ht: 7, vht: 9, he: 11 };
const guardIntervalsNs: Record<WifiStandard, number[]> = { ht: [400, 800], vht: [400, 800], he: [800, 1600, 3200] };

/** VHT combinations the standard leaves out, as width/mcs → streams [IEEE 802.11ac-2013 §22.5]. */
const vhtExcluded: Record<string, number[]> = { '20/9': [1, 2, 4, 5, 7, 8], '80/6': [3, 7], '80/9': [6], '160/9': [3] };

/**
 * PHY rate = Nss·Nsd·Nbpscs·R/(T_DFT + T_GI) [IEEE 802.11]. HT takes its MCS per stream (0–7) with the streams given apart.
 * @param guardNs guard interval in ns
 * @returns Mbit/s, or what the standard excludes
 */
export function wifiRateMbps(standard: WifiStandard, widthMhz: number, mcs: number, streams: number, guardNs: number): Result<number> {
  const carriers = dataSubcarriers[standard][widthMhz];
  const widths = Object.keys(dataSubcarriers[standard]).join(', ');
  if (!carriers) return bad('width', `${standard} has no channel of ${widthMhz} MHz`, `use one of ${widths}`);
  const scheme = Number.isInteger(mcs) && mcs >= 0 && mcs <= highestMcs[standard] ? schemes[mcs] : undefined;
  if (!scheme) return bad('mcs', `${standard} has no MCS ${mcs}`, `use 0 to ${highestMcs[standard]}`);
  const most = standard === 'ht' ? 4 : 8;
  if (!Number.isInteger(streams) || streams < 1 || streams > most)
    return bad('streams', `${standard} has no ${streams} streams`, `use 1 to ${most}`);
  if (!guardIntervalsNs[standard].includes(guardNs))
    return bad('gi', `${standard} has no guard interval of ${guardNs} ns`, `use one of ${guardIntervalsNs[standard].join(', ')}`);
  if (standard === 'vht' && vhtExcluded[`${widthMhz}/${mcs}`]?.includes(streams))
    return bad(
      'mcs',
      `VHT excludes MCS ${mcs} at ${widthMhz} MHz with ${streams} stream${streams === 1 ? '' : 's'}`,
      'use a lower MCS or another number of streams',
    );
  const symbolUs = (standard === 'he' ? 12.8 : 3.2) + guardNs / 1000;
  return good((streams * carriers * scheme[0] * scheme[1]) / symbolUs);
}

/** Usable part of the PHY rate, shared by all on the channel; common practice, no source. */
export const wifiUsableShare = { low: 0.5, high: 0.65 };
/** Signal for voice and display in dBm: good from the first, poor below the second; common practice, no source. */
export const wifiSignal = { goodDbm: -67, marginalDbm: -70, poorDbm: -75 };
