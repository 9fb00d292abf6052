import type { Endpoint } from '@underpass/contracts';
import { createHash } from 'node:crypto';
import { Stopped } from './stopped.js';

const mostParts = 1000;

/**
 * Fetches a file of firmware in as many parts as the line of a device takes, each from where the one before stopped [RFC 9110 14], and
 * holds it against its sum.
 * @returns the bytes, and the parts they came in
 */
export async function fetchFirmware(
  base: string,
  { endpoint, breaksAfterBytes = Infinity }: { endpoint: Endpoint; breaksAfterBytes?: number },
  id: string,
  sum: string,
): Promise<{ bytes: number; parts: number }> {
  const hash = createHash('sha256');
  const path = `${base}/api/published/${encodeURIComponent(endpoint.id)}/firmware/${encodeURIComponent(id)}`;
  let [bytes, parts, total] = [0, 0, Infinity];
  while (bytes < total && parts < mostParts) {
    parts++;
    const cut = new AbortController();
    const headers = { range: `bytes=${bytes}-`, 'if-range': `"${sum}"` };
    const response = await fetch(path, { headers, signal: cut.signal });
    // the whole instead of a part: it is another file by now
    if (response.status !== 206) throw new Stopped('write and restart', `${id}: ${response.status}`);
    total = Number(/\/(\d+)$/.exec(response.headers.get('content-range') ?? '')?.[1]);
    let ofPart = 0;
    try {
      for await (const part of (response.body ?? []) as AsyncIterable<Uint8Array>) {
        const taken = part.subarray(0, breaksAfterBytes - ofPart);
        hash.update(taken);
        [ofPart, bytes] = [ofPart + taken.length, bytes + taken.length];
        if (ofPart >= breaksAfterBytes) cut.abort();
      }
    } catch (error) {
      if (!cut.signal.aborted) throw error;
    }
  }
  if (bytes !== total || hash.digest('hex') !== sum) throw new Stopped('write and restart', `${id}: its sum is another`);
  return { bytes, parts };
}
