import { wifiRateMbps, wifiUsableShare } from './wifi.js';

/** Signal a receiver must at least get by in 20 MHz, dBm by MCS 0 to 7 [IEEE 802.11-2020 table 19-23, minimum sensitivity]. */
const sensitivityDbm = [-82, -79, -77, -74, -70, -66, -65, -64] as const;
/** Twice the width wants 3 dB more [same table, 40 MHz column]; 80 MHz 6 dB [table 21-25]. */
const widerDb = 6;

/** Most that Wi-Fi can carry at a signal, between one stream in 20 MHz and two streams in 80 MHz; of that, half to two thirds are usable. */
export interface WifiRate {
  lowMbps: number;
  highMbps: number;
}

const rates = new Map<number, WifiRate>();

/**
 * Rate that a signal lets through for all on the channel together.
 * @param dbm signal at the device, −110 to 0
 * @returns Mbit/s; 0 where no receiver has to understand it
 * @example −66 dBm: MCS 5 in 20 MHz with one stream, 52 Mbit/s, half of it usable: 26 at least
 */
export function wifiRateAt(dbm: number): WifiRate {
  const whole = Math.round(dbm);
  let known = rates.get(whole);
  if (known) return known;
  const best = (signal: number) => sensitivityDbm.reduce((mcs, floor, i) => (signal >= floor ? i : mcs), -1);
  const rate = (standard: 'ht' | 'vht', width: number, mcs: number, streams: number) => {
    const found = mcs < 0 ? null : wifiRateMbps(standard, width, mcs, streams, 800);
    return found?.ok ? found.value : 0;
  };
  const narrow = rate('ht', 20, best(whole), 1);
  known = {
    lowMbps: narrow * wifiUsableShare.low,
    highMbps: Math.max(narrow, rate('vht', 80, best(whole - widerDb), 2)) * wifiUsableShare.high,
  };
  rates.set(whole, known);
  return known;
}
