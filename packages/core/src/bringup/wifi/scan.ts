import { bad, good, type Result } from '../../units/result.js';

/** A network as a device found it. */
export interface Seen {
  /** Empty where it does not say its name. */
  name: string;
  bssid: string;
  frequencyMhz: number;
  channel: number;
  widthMhz: number;
  signalDbm: number;
  /** WPA is that of a key shared by all, version 2; null: none of those that a card can say, such as one with a sign-in of its own. */
  security: 'WPA' | 'SAE' | 'WEP' | 'nopass' | null;
  /** SAE and WPA side by side: devices of both may join. */
  both: boolean;
}

/** Most text of a scan that is read, letters, and most networks. */
const longest = 2_000_000;
const mostSeen = 2000;

/** Channel of a frequency [IEEE 802.11-2020 17.3.8.4.2, 802.11ax 27.3.23.2]; 0 where it is none. */
export function channelOf(mhz: number): number {
  if (mhz === 2484) return 14;
  if (mhz >= 2412 && mhz <= 2472 && (mhz - 2407) % 5 === 0) return (mhz - 2407) / 5;
  if (mhz >= 5955 && mhz <= 7115 && (mhz - 5950) % 5 === 0) return (mhz - 5950) / 5;
  return mhz >= 5160 && mhz <= 5885 && (mhz - 5000) % 5 === 0 ? (mhz - 5000) / 5 : 0;
}
/** Frequency of a channel below 6 GHz, MHz; 0 where there is none. */
const frequencyOf = (channel: number): number =>
  channel === 14 ? 2484 : channel >= 1 && channel <= 13 ? 2407 + 5 * channel : channel >= 32 && channel <= 177 ? 5000 + 5 * channel : 0;

/**
 * Reads what a device found: the text of `iw dev … scan` (its layout from memory, no source), or a CSV with columns such as ssid, bssid,
 * channel or frequency, signal and security.
 * @returns the networks in their order, or what is wrong and in which line
 */
export function readScan(text: string): Result<Seen[]> {
  if (text.length > longest) return bad('the text', `has more than ${longest} letters`, 'give one scan');
  const lines = text.replace(/^\uFEFF/, '').split(/\r\n|\n|\r/);
  const read = lines.some((line) => /^\s*BSS [0-9a-f]{2}(:[0-9a-f]{2}){5}/i.test(line)) ? ofIw(lines) : ofCsv(lines);
  if (read.ok && read.value.length === 0)
    return bad('the text', 'holds no network', 'paste the whole answer of “iw dev wlan0 scan”, or a CSV with its head');
  if (read.ok && read.value.length > mostSeen) return bad('the text', `holds more than ${mostSeen} networks`, 'give one scan');
  return read;
}

/** What is gathered of a network until the next one begins. */
interface Gathered {
  line: number;
  bssid: string;
  name: string;
  mhz: number;
  dbm: number | null;
  privacy: boolean;
  suites: Set<string>;
  offset: boolean;
  vht: number;
}

function ofIw(lines: readonly string[]): Result<Seen[]> {
  const found: Seen[] = [];
  let now: Gathered | null = null;
  const close = (): Result<never> | null => {
    if (!now) return null;
    const { line, bssid, name, mhz, dbm, privacy, suites, offset, vht } = now;
    if (channelOf(mhz) === 0) return bad(`line ${line}`, `${bssid} has no frequency of Wi-Fi`, 'paste the whole answer');
    if (dbm === null) return bad(`line ${line}`, `${bssid} has no signal`, 'paste the whole answer');
    found.push({
      name,
      bssid,
      frequencyMhz: mhz,
      channel: channelOf(mhz),
      widthMhz: vht || (offset ? 40 : 20),
      signalDbm: dbm,
      ...securityOf(suites, privacy),
    });
    return null;
  };
  for (const [i, line] of lines.entries()) {
    const head = /^\s*BSS ([0-9a-f]{2}(?::[0-9a-f]{2}){5})/i.exec(line);
    if (head) {
      const wrong = close();
      if (wrong) return wrong;
      now = {
        line: i + 1,
        bssid: (head[1] as string).toLowerCase(),
        name: '',
        mhz: 0,
        dbm: null,
        privacy: false,
        suites: new Set(),
        offset: false,
        vht: 0,
      };
      continue;
    }
    if (now) gather(now, line);
  }
  return close() ?? good(found);
}

function gather(now: Gathered, line: string): void {
  const value = (pattern: RegExp): string | undefined => pattern.exec(line)?.[1];
  const mhz = value(/^\s*freq: (\d+(?:\.\d+)?)/);
  if (mhz !== undefined) now.mhz = Math.round(Number(mhz));
  const dbm = value(/^\s*signal: (-?\d+(?:\.\d+)?) dBm/);
  if (dbm !== undefined) now.dbm = Number(dbm);
  const name = value(/^\s*SSID: ?(.*)$/);
  if (name !== undefined) now.name = unescaped(name);
  if (/^\s*capability:.*\bPrivacy\b/.test(line)) now.privacy = true;
  const suites = value(/Authentication suites: (.+)$/);
  if (suites !== undefined) for (const suite of suites.split(/\s+/)) now.suites.add(suite);
  if (/secondary channel offset: (above|below)/.test(line)) now.offset = true;
  const width = value(/channel width: (\d)/);
  if (width === '1') now.vht = 80;
  if (width === '2' || width === '3') now.vht = 160;
}

/** Bytes of a name that are no plain letters are written \\xNN; those of nought alone are a name that is not said. */
function unescaped(name: string): string {
  if (!name.includes('\\x')) return name;
  if (/^(\\x00)*$/.test(name)) return '';
  const encoded = name.replace(/%/g, '%25').replace(/\\x([0-9a-f]{2})/gi, '%$1');
  try {
    return decodeURIComponent(encoded);
  } catch {
    return name;
  }
}

function securityOf(suites: ReadonlySet<string>, privacy: boolean): Pick<Seen, 'security' | 'both'> {
  const psk = suites.has('PSK') || suites.has('PSK/SHA-256') || suites.has('FT/PSK');
  const sae = suites.has('SAE') || suites.has('FT/SAE');
  if (sae || psk) return { security: sae ? 'SAE' : 'WPA', both: sae && psk };
  if (suites.size > 0) return { security: null, both: false };
  return { security: privacy ? 'WEP' : 'nopass', both: false };
}

const columns = {
  name: /^(ssid|name|network)$/i,
  bssid: /^(bssid|mac)$/i,
  channel: /^(channel|chan)$/i,
  mhz: /^(frequency|freq|mhz)$/i,
  dbm: /^(signal|rssi|dbm|level)$/i,
  security: /^(security|auth|authentication)$/i,
} as const;

/** Fields of a line of a CSV, quoted where it has to be [RFC 4180]. */
function cellsOf(line: string): string[] {
  const cells: string[] = [];
  let [cell, quoted] = ['', false];
  for (let i = 0; i < line.length; i++) {
    const letter = line[i] as string;
    if (letter === '"' && quoted && line[i + 1] === '"') cell += line[++i] as string;
    else if (letter === '"' && (quoted || cell.trim() === '')) quoted = !quoted;
    else if (letter === ',' && !quoted) {
      cells.push(cell.trim());
      cell = '';
    } else cell += letter;
  }
  return [...cells, cell.trim()];
}

function ofCsv(lines: readonly string[]): Result<Seen[]> {
  const head = cellsOf(lines[0] ?? '');
  const at = Object.fromEntries(
    Object.entries(columns).map(([key, pattern]) => [key, head.findIndex((cell) => pattern.test(cell))]),
  ) as Record<keyof typeof columns, number>;
  if (at.name < 0 || at.dbm < 0 || (at.channel < 0 && at.mhz < 0))
    return bad('line 1', 'is neither the head of a CSV nor of “iw dev … scan”', 'name the columns ssid, signal, and channel or frequency');
  const found: Seen[] = [];
  for (const [i, line] of lines.entries()) {
    if (i === 0 || line.trim() === '') continue;
    const cells = cellsOf(line);
    const cell = (key: keyof typeof columns): string => cells[at[key]] ?? '';
    const dbm = Number(cell('dbm').replace(/\s*dBm$/i, ''));
    if (cell('dbm') === '' || !(dbm >= -120 && dbm <= 0))
      return bad(`line ${i + 1}`, `has the signal “${cell('dbm')}”`, 'give dBm from -120 to 0');
    const mhz = at.mhz >= 0 ? Math.round(Number(cell('mhz').replace(/\s*MHz$/i, ''))) : frequencyOf(Number(cell('channel')));
    if (channelOf(mhz) === 0)
      return bad(
        `line ${i + 1}`,
        `has “${cell(at.mhz >= 0 ? 'mhz' : 'channel')}” where a channel of Wi-Fi is wanted`,
        'give a channel or its MHz',
      );
    found.push({
      ...{
        name: cell('name'),
        bssid: cell('bssid').toLowerCase(),
        frequencyMhz: mhz,
        channel: channelOf(mhz),
        widthMhz: 20,
        signalDbm: dbm,
      },
      ...ofWords(cell('security')),
    });
  }
  return good(found);
}

/** Security as people and programs write it. */
function ofWords(text: string): Pick<Seen, 'security' | 'both'> {
  const sae = /SAE|WPA3/i.test(text) && !/ENTERPRISE|802\.1X|EAP/i.test(text);
  const psk = /WPA2|WPA(?!3)|PSK/i.test(text) && !/ENTERPRISE|802\.1X|EAP/i.test(text);
  if (sae || psk) return { security: sae ? 'SAE' : 'WPA', both: sae && /WPA2|PSK/i.test(text) };
  if (/WEP/i.test(text)) return { security: 'WEP', both: false };
  return { security: /^(|open|none|nopass|--)$/i.test(text.trim()) ? 'nopass' : null, both: false };
}
