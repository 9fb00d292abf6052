import type { ObjectKind } from './estate.js';

/**
 * What is put in a field that an object cannot be without while nobody knows it: it stands in the object’s `assumed`, and a verdict
 * that hangs on it is Unknown. Ours: what is commonest.
 */
export const standIns: Partial<Record<ObjectKind, Readonly<Record<string, unknown>>>> = {
  location: { kind: 'office', latitude: 0, longitude: 0, lineKind: 'fibre' },
  region: { latitude: 0, longitude: 0 },
  gateway: { securityModes: ['tls'] },
  pool: { securityModes: ['tls'] },
  host: { places: 1 },
  resource: { work: 'office', content: { text: 0.6, window: 0.3, still: 0.1 } },
  endpoint: { deviceClass: 'laptop', ownership: 'managed', platform: 'desktop', processor: 'x86-64', clientKind: 'browser' },
};

/** What a device is says most of what it runs. */
const byClass: Readonly<Record<string, Readonly<Record<string, string>>>> = {
  'thin-client': { platform: 'thin', clientKind: 'thin-client firmware' },
  tablet: { platform: 'mobile', processor: 'arm64' },
  phone: { platform: 'mobile', processor: 'arm64' },
};

/** An object with stand-ins for what it lacks and cannot be without, each named in `assumed`. What has all comes back as it is. */
export function withStandIns(kind: ObjectKind, object: Readonly<Record<string, unknown>>): Record<string, unknown> {
  const missing = Object.entries(standIns[kind] ?? {}).filter(([field]) => object[field] === undefined);
  if (missing.length === 0) return object;
  const own = kind === 'endpoint' ? (byClass[String(object.deviceClass)] ?? {}) : {};
  const filled = Object.fromEntries(missing.map(([field, value]) => [field, own[field] ?? value]));
  const assumed = [...new Set([...((object.assumed as string[] | undefined) ?? []), ...missing.map(([field]) => field)])].sort();
  return { ...object, ...filled, assumed };
}
