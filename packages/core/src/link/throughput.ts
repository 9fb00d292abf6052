/**
 * Rate a TCP-friendly flow reaches at a loss event rate [RFC 5348 §3.1, with b = 1 and t_RTO = 4R].
 * Infinite (the formula does not bind) without loss or without delay.
 * @returns Mbit/s
 */
export function rfc5348Mbps(rttMs: number, lossShare: number, segmentBytes = 1460): number {
  if (lossShare <= 0 || rttMs <= 0) return Infinity;
  const r = rttMs / 1000;
  const p = Math.min(1, lossShare);
  const bytesPerS = segmentBytes / (r * Math.sqrt((2 * p) / 3) + 4 * r * (3 * Math.sqrt((3 * p) / 8)) * p * (1 + 32 * p * p));
  return (bytesPerS * 8) / 1e6;
}

/** The short form for small loss, (s/R)·sqrt(3/(2p)) [Mathis et al. 1997]. @returns Mbit/s */
export function mathisMbps(rttMs: number, lossShare: number, segmentBytes = 1460): number {
  if (lossShare <= 0 || rttMs <= 0) return Infinity;
  return ((segmentBytes * 8) / (rttMs / 1000) / 1e6) * Math.sqrt(3 / (2 * lossShare));
}

/** One flow with window W cannot pass W/RTT. @returns Mbit/s */
export const windowMbps = (rttMs: number, windowBytes: number): number =>
  rttMs <= 0 ? Infinity : (windowBytes * 8) / (rttMs / 1000) / 1e6;
