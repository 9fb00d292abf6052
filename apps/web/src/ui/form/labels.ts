import type { Field } from '@underpass/contracts';
import { inThousands } from '../times.js';

const units: Record<string, string> = {
  Mbps: 'Mbit/s',
  Ms: 'ms',
  S: 's',
  Dbm: 'dBm',
  MB: 'MB',
  Px: 'px',
  Hz: 'Hz',
  Percent: '%',
};
/** Fields whose name alone says too little, or says it as files do. */
const own: Record<string, string> = {
  x: 'Left, px',
  y: 'Top, px',
  id: 'Id',
  chroma444: 'Full colour, 4:4:4',
  tlsMinimum: 'Lowest TLS version',
  tlsHighest: 'Highest TLS version',
  udp: 'UDP',
  usb: 'USB',
  latitude: 'Latitude, degrees north',
  longitude: 'Longitude, degrees east',
  part: 'Which',
  wifiSignalDbm: 'Wi-Fi signal dBm',
  value: 'Value',
  sha256: 'SHA-256 sum',
  'wifi.name': 'Wi-Fi network',
  'wifi.security': 'Wi-Fi, joined with',
  'wifi.key': 'Wi-Fi key',
  cable: 'Cable plugged in',
  'serverOption.code': 'Option of the server',
  'serverOption.type': 'Read as',
  ownLines: 'Every endpoint has its own line',
  worksFrom: 'Works from',
  worksTo: 'Works to',
  worksOn: 'Works on',
};

const wordsOf = (part: string): string =>
  part
    .replace(/([a-z\d])([A-Z]+)/g, '$1 $2')
    .split(' ')
    .map((word) => units[word] ?? (word === word.toUpperCase() ? word : word.toLowerCase()))
    .join(' ');

/** "lineKind" → "Line kind"; "certificate.notAfter" → "Certificate, not after". */
export function labelOf(name: string): string {
  if (own[name]) return own[name];
  const words = name.split('.').map(wordsOf).join(', ');
  return (words[0] as string).toUpperCase() + words.slice(1);
}

/** What a number may be; empty where nothing is said of it. @example "0 to 5 000", "above 0, at most 400 000" */
export function rangeOf({ min, above, max }: Pick<Field, 'min' | 'above' | 'max'>): string {
  if (min !== undefined && max !== undefined) return `${inThousands(min)} to ${inThousands(max)}`;
  return [
    above !== undefined && `above ${inThousands(above)}`,
    min !== undefined && `${inThousands(min)} or more`,
    max !== undefined && `at most ${inThousands(max)}`,
  ]
    .filter(Boolean)
    .join(', ');
}
