import { CaptureReader, datagramIn, ipv4At, isCapture, type CaptureProblem } from '../../evidence/capture/index.js';
import { latinText } from '../../units/text.js';
import { bad, good, type Result } from '../../units/result.js';
import { decodeDhcp, typeOf } from './decode.js';
import { bytesFromHex } from './hex.js';
import type { DhcpMessage, DhcpProblem } from './message.js';
import { optionName } from './options.js';
import { hexText, optionValue } from './values.js';

/** A message as it is told: what it is, from whom, and its options in words. */
export interface DhcpEntry {
  /** DISCOVER, OFFER, REQUEST, ACK …; BOOTP where it says no type; null where it could not be read. */
  type: string | null;
  /** As eight hex digits after 0x. */
  xid: string | null;
  clientMac: string | null;
  /** The address that is offered or given; 0.0.0.0 where none is. */
  yourAddress: string | null;
  options: { code: number; name: string; value: string; offset: number }[];
  problems: DhcpProblem[];
}

/** What a file of messages holds. */
export interface DhcpReading {
  messages: DhcpEntry[];
  /** What is wrong with the file around them. */
  problems: CaptureProblem[];
}

const ports = new Set([67, 68]);

/**
 * Reads messages of DHCP out of a capture (pcap, pcapng), out of one message as it is, or out of hex text.
 * @param isHex whether it is said to be hex text; otherwise it is seen from the content
 */
export function readDhcp(file: Uint8Array, isHex = false): Result<DhcpReading> {
  if (!isHex && isCapture(file)) return good(readCapture([file]));
  const looksText =
    isHex || (file.length > 0 && file.every((byte) => byte === 9 || byte === 10 || byte === 13 || (byte >= 32 && byte < 127)));
  if (looksText) {
    const messages = bytesFromHex(latinText(file));
    return messages.ok ? good({ messages: told(messages.value), problems: [] }) : messages;
  }
  if (file.length === 0) return bad('the file', 'is empty', 'give a capture, a message or hex text');
  return good({ messages: told([file]), problems: [] });
}

/** The messages of a capture that comes in pieces. */
export function readCapture(pieces: Iterable<Uint8Array>): DhcpReading {
  const messages: DhcpEntry[] = [];
  const problems: CaptureProblem[] = [];
  const answers = new Answers();
  const reader = new CaptureReader({
    packet: ({ linkType, bytes }) => {
      const datagram = datagramIn(linkType, bytes);
      if (!datagram || !(ports.has(datagram.sourcePort) || ports.has(datagram.destinationPort))) return;
      const entry = entryOf(datagram.payload, answers);
      if (datagram.isCut) entry.problems.push({ offset: datagram.payload.length, text: 'is cut off here: the capture kept no more of it' });
      messages.push(entry);
    },
    problem: (problem) => problems.push(problem),
  });
  for (const piece of pieces) reader.push(piece);
  reader.end();
  return { messages, problems };
}

function told(messages: readonly Uint8Array[]): DhcpEntry[] {
  const answers = new Answers();
  return messages.map((bytes) => entryOf(bytes, answers));
}

/** Which servers answered what was asked: a second one is told. */
class Answers {
  private readonly first = new Map<string, string>();

  see(message: DhcpMessage, type: string | null): DhcpProblem | null {
    if (type !== 'OFFER') return null;
    const server = message.options.find(({ code }) => code === 54);
    if (server?.bytes.length !== 4) return null;
    const key = `${message.xid} ${hexText(message.hardwareAddress)}`;
    const address = ipv4At(server.bytes, 0);
    const known = this.first.get(key);
    if (known === undefined) this.first.set(key, address);
    if (known === undefined || known === address) return null;
    return { offset: server.offset, text: `is a second server’s offer: ${address} answers as ${known} did` };
  }
}

function entryOf(bytes: Uint8Array, answers: Answers): DhcpEntry {
  const { message, problems } = decodeDhcp(bytes);
  if (!message) return { type: null, xid: null, clientMac: null, yourAddress: null, options: [], problems };
  const type = typeOf(message);
  const second = answers.see(message, type);
  return {
    type: type ?? (message.options.some(({ code }) => code === 53) ? null : 'BOOTP'),
    xid: `0x${message.xid.toString(16).padStart(8, '0')}`,
    clientMac: message.hardwareAddress.length ? hexText(message.hardwareAddress) : null,
    yourAddress: message.yourAddress,
    options: message.options.map(({ code, bytes: of, offset }) => ({
      code,
      name: optionName(code),
      value: optionValue(code, of).value,
      offset,
    })),
    problems: second ? [...problems, second].sort((a, b) => a.offset - b.offset) : problems,
  };
}
