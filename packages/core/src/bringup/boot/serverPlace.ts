/** Where a server is, as devices are told. */
export interface ServerPlace {
  scheme: string;
  /** Lower case. */
  host: string;
  port: number | null;
}

/**
 * Reads a name or an address, with a scheme, a port and a path where it has them [RFC 3986 section 3]; null where it is neither.
 * @example placeOf('192.0.2.10:8080') is { scheme: 'http', host: '192.0.2.10', port: 8080 }
 */
export function placeOf(text: string): ServerPlace | null {
  const found = /^(?:([a-z][a-z0-9+.-]*):\/\/)?([a-z0-9](?:[a-z0-9.-]*[a-z0-9])?)(?::(\d{1,5}))?(?:\/[\x21-\x7e]*)?$/i.exec(text);
  if (!found) return null;
  const [, scheme = 'http', host = '', port] = found;
  // numbers alone are an IPv4 address or nothing [RFC 1123 section 2.1]
  if (/^[\d.]+$/.test(host) && !/^(25[0-5]|2[0-4]\d|1?\d?\d)(\.(25[0-5]|2[0-4]\d|1?\d?\d)){3}$/.test(host)) return null;
  if (port !== undefined && (Number(port) < 1 || Number(port) > 65_535)) return null;
  return { scheme: scheme.toLowerCase(), host: host.toLowerCase(), port: port === undefined ? null : Number(port) };
}

const usualPort: Record<string, number> = { http: 80, https: 443 };
/** The port that is meant. */
export const portOf = ({ scheme, port }: ServerPlace): number | null => port ?? usualPort[scheme] ?? null;
