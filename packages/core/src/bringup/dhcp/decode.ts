import { bigEndian } from '../../evidence/capture/bytes.js';
import { ipv4At } from '../../evidence/capture/index.js';
import { latinText } from '../../units/text.js';
import { at, cookie, end, overload, pad, type DhcpMessage, type DhcpOption, type DhcpProblem } from './message.js';
import { messageTypes, optionName } from './options.js';
import { hexText, optionProblems } from './values.js';

/** A message as it was read, as far as it could be, and what is wrong with it. */
export interface Decoded {
  message: DhcpMessage | null;
  problems: DhcpProblem[];
}

/** Shortest lease that lets a device work undisturbed, s; common practice, no source. */
export const shortLeaseS = 300;

/**
 * Reads a message [RFC 2131]; long options are joined from their pieces [RFC 3396], and the fields for the file and the server's name
 * are read as options where option 52 says so. What it holds are views of the bytes given.
 * @returns no message where the bytes end before its options begin
 */
export function decodeDhcp(bytes: Uint8Array): Decoded {
  const problems: DhcpProblem[] = [];
  const tell = (offset: number, text: string) => void problems.push({ offset, text });
  if (bytes.length < at.options) {
    tell(bytes.length, `ends after ${bytes.length} bytes; its fields alone are ${at.options}`);
    return { message: null, problems };
  }
  const { u16, u32 } = bigEndian;
  const op = bytes[at.op] as number;
  const hardwareLength = bytes[at.hardwareLength] as number;
  if (op !== 1 && op !== 2) tell(at.op, `is neither a request (1) nor an answer (2): ${op}`);
  if (hardwareLength > 16) tell(at.hardwareLength, `says that the hardware address has ${hardwareLength} bytes; 16 are the most`);
  if (u32(bytes, at.cookie) !== cookie)
    tell(at.cookie, `has ${hexText(bytes.subarray(at.cookie, at.options))} where 63:82:53:63 says that options follow`);

  const pieces = new Map<number, { offset: number; parts: Uint8Array[] }>();
  const main = readOptions(bytes, at.options, bytes.length, pieces, tell);
  const over = pieces.get(overload)?.parts[0]?.[0] ?? 0;
  if (pieces.has(overload) && (over < 1 || over > 3)) tell(pieces.get(overload)?.offset ?? 0, `says ${over}; 1, 2 or 3 can be`);
  const [fileHolds, nameHolds] = [over === 1 || over === 3, over === 2 || over === 3];
  const ends = [
    main,
    ...(fileHolds ? [readOptions(bytes, at.bootFile, at.cookie, pieces, tell)] : []),
    ...(nameHolds ? [readOptions(bytes, at.serverName, at.bootFile, pieces, tell)] : []),
  ];
  for (const { ended, offset, where } of ends) if (!ended) tell(offset, `${where} end without saying so (255)`);

  const options = [...pieces].map(([code, { offset, parts }]): DhcpOption => ({ code, offset, bytes: joined(parts) }));
  for (const { code, bytes: of, offset } of options)
    for (const problem of optionProblems(code, of)) tell(offset, `option ${code} (${optionName(code)}) ${problem}`);
  const lease = options.find(({ code }) => code === 51);
  if (lease?.bytes.length === 4 && u32(lease.bytes, 0) < shortLeaseS)
    tell(lease.offset, `gives a lease of ${u32(lease.bytes, 0)} s; below ${shortLeaseS} s devices ask again and again`);
  return {
    message: {
      op,
      hardwareType: bytes[at.hardwareType] as number,
      hops: bytes[at.hops] as number,
      xid: u32(bytes, at.xid),
      secs: u16(bytes, at.secs),
      broadcast: (u16(bytes, at.flags) & 0x8000) !== 0,
      clientAddress: ipv4At(bytes, at.clientAddress),
      yourAddress: ipv4At(bytes, at.yourAddress),
      nextServer: ipv4At(bytes, at.nextServer),
      relay: ipv4At(bytes, at.relay),
      hardwareAddress: bytes.subarray(at.hardwareAddress, at.hardwareAddress + Math.min(16, hardwareLength)),
      serverName: nameHolds ? '' : nameIn(bytes, at.serverName, at.bootFile),
      bootFile: fileHolds ? '' : nameIn(bytes, at.bootFile, at.cookie),
      options,
    },
    problems: problems.sort((a, b) => a.offset - b.offset),
  };
}

/** Where reading the options of a field came to. */
interface Ended {
  ended: boolean;
  /** Behind the last option that was read. */
  offset: number;
  where: string;
}

function readOptions(
  bytes: Uint8Array,
  from: number,
  to: number,
  pieces: Map<number, { offset: number; parts: Uint8Array[] }>,
  tell: (offset: number, text: string) => void,
): Ended {
  const where =
    from === at.options
      ? 'the options'
      : from === at.bootFile
        ? 'the options in the field of the file'
        : 'the options in the field of the server’s name';
  let here = from;
  let offset = from;
  while (here < to) {
    const code = bytes[here] as number;
    if (code === pad) {
      here++;
      continue;
    }
    if (code === end) return { ended: true, offset: here, where };
    const length = here + 1 < to ? (bytes[here + 1] as number) : null;
    if (length === null || here + 2 + length > to) {
      tell(
        here,
        length === null
          ? `option ${code} (${optionName(code)}) ends before it says how long it is`
          : `option ${code} (${optionName(code)}) says that it has ${length} bytes; ${to - here - 2} are there`,
      );
      // that it does not end is said by this
      return { ended: true, offset: here, where };
    }
    const known = pieces.get(code);
    const part = bytes.subarray(here + 2, here + 2 + length);
    if (known) known.parts.push(part);
    else pieces.set(code, { offset: here, parts: [part] });
    here += 2 + length;
    offset = here;
  }
  return { ended: false, offset, where };
}

function joined(parts: readonly Uint8Array[]): Uint8Array {
  if (parts.length === 1) return parts[0] as Uint8Array;
  const all = new Uint8Array(parts.reduce((sum, { length }) => sum + length, 0));
  let to = 0;
  for (const part of parts) {
    all.set(part, to);
    to += part.length;
  }
  return all;
}

/** A name in a field of fixed length, up to its first NUL. */
function nameIn(bytes: Uint8Array, from: number, to: number): string {
  const field = bytes.subarray(from, to);
  const nul = field.indexOf(0);
  return latinText(field.subarray(0, nul < 0 ? field.length : nul));
}

/** The type of a message, by its option 53; null where it has none, as the older BOOTP. */
export const typeOf = ({ options }: DhcpMessage): string | null => {
  const told = options.find(({ code }) => code === 53)?.bytes;
  return told?.length === 1 ? messageTypes[told[0] as number] || null : null;
};
