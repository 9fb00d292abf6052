import { utf8Bytes } from '../../units/text.js';
import { at, cookie, end, overload, type DhcpMessage } from './message.js';

/** What an option holds before it stands in a message. */
export type OptionToSend = Pick<DhcpMessage['options'][number], 'code' | 'bytes'>;
/** A message before it is sent. */
export type MessageToSend = Omit<DhcpMessage, 'options'> & { options: readonly OptionToSend[] };

/** Shortest message: BOOTP relays and clients expect 300 bytes [RFC 951, RFC 1542 2.1]. */
const shortest = 300;
/** Longest piece of an option [RFC 2132 section 2]. */
const longestPiece = 255;

/**
 * A message as it goes over the wire. Options longer than 255 bytes go in pieces one behind the other [RFC 3396]; what goes beyond
 * the longest message stands in the fields for the file and the server's name, where those are free (option 52).
 * @param longest bytes the receiver takes; 576 unless it says otherwise [RFC 2131 section 2], of which 28 are the heads around it
 * @returns null where it does not fit
 */
export function encodeDhcp(message: MessageToSend, longest = 1500): Uint8Array | null {
  const pieces = message.options
    .filter(({ code }) => code !== overload)
    .flatMap(({ code, bytes }) => piecesOf(code, bytes).map((piece, i, all) => ({ piece, isRest: i > 0, alone: all.length === 1 })));
  const room = longest - 28 - at.options;
  const fields = placed(pieces, room, message);
  if (!fields) return null;
  const { main, file, name } = fields;
  const length = Math.max(shortest, at.options + main.length);
  const out = new Uint8Array(length);
  out[at.op] = message.op;
  out[at.hardwareType] = message.hardwareType;
  out[at.hardwareLength] = message.hardwareAddress.length;
  out[at.hops] = message.hops;
  put32(out, at.xid, message.xid);
  put16(out, at.secs, message.secs);
  put16(out, at.flags, message.broadcast ? 0x8000 : 0);
  putAddress(out, at.clientAddress, message.clientAddress);
  putAddress(out, at.yourAddress, message.yourAddress);
  putAddress(out, at.nextServer, message.nextServer);
  putAddress(out, at.relay, message.relay);
  out.set(message.hardwareAddress.subarray(0, 16), at.hardwareAddress);
  out.set(name ?? latin(message.serverName, 64), at.serverName);
  out.set(file ?? latin(message.bootFile, 128), at.bootFile);
  put32(out, at.cookie, cookie);
  out.set(main, at.options);
  return out;
}

function piecesOf(code: number, bytes: Uint8Array): Uint8Array[] {
  const count = Math.max(1, Math.ceil(bytes.length / longestPiece));
  return Array.from({ length: count }, (_, i) => {
    const part = bytes.subarray(i * longestPiece, (i + 1) * longestPiece);
    return Uint8Array.from([code, part.length, ...part]);
  });
}

interface Piece {
  piece: Uint8Array;
}

/** The pieces in the options, and where those are full in the field of the file and then in that of the name, as they are read. */
function placed(
  pieces: readonly Piece[],
  room: number,
  { bootFile, serverName }: Pick<DhcpMessage, 'bootFile' | 'serverName'>,
): { main: Uint8Array; file: Uint8Array | null; name: Uint8Array | null } | null {
  const all = pieces.map(({ piece }) => piece);
  const total = all.reduce((sum, { length }) => sum + length, 0);
  if (total + 1 <= room) return { main: closed(all, total + 1), file: null, name: null };
  const fields = [
    // three bytes say that there are others
    { room: room - 4, parts: [] as Uint8Array[] },
    { room: bootFile === '' ? at.cookie - at.bootFile - 1 : 0, parts: [] as Uint8Array[] },
    { room: serverName === '' ? at.bootFile - at.serverName - 1 : 0, parts: [] as Uint8Array[] },
  ];
  // never back: pieces of one option are joined in the order of the fields
  let field = 0;
  for (const piece of all) {
    while (field < 3 && (fields[field]?.room ?? 0) < piece.length) field++;
    const here = fields[field];
    if (!here) return null;
    here.parts.push(piece);
    here.room -= piece.length;
  }
  const [main, file, name] = fields.map(({ parts }) => parts) as [Uint8Array[], Uint8Array[], Uint8Array[]];
  const says = (file.length ? 1 : 0) + (name.length ? 2 : 0);
  const mains = [...main, Uint8Array.from([overload, 1, says])];
  return {
    main: closed(
      mains,
      mains.reduce((sum, { length }) => sum + length, 1),
    ),
    file: file.length ? closed(file, at.cookie - at.bootFile) : null,
    name: name.length ? closed(name, at.bootFile - at.serverName) : null,
  };
}

function closed(parts: readonly Uint8Array[], length: number): Uint8Array {
  const out = new Uint8Array(length);
  let to = 0;
  for (const part of parts) {
    out.set(part, to);
    to += part.length;
  }
  out[to] = end;
  return out;
}

const put16 = (out: Uint8Array, to: number, value: number) => out.set([value >>> 8, value & 0xff], to);
const put32 = (out: Uint8Array, to: number, value: number) =>
  out.set(
    [24, 16, 8, 0].map((by) => (value >>> by) & 0xff),
    to,
  );
const putAddress = (out: Uint8Array, to: number, address: string) => out.set(address.split('.').map(Number), to);
/** A name in a field, with a NUL behind it. */
const latin = (text: string, length: number): Uint8Array =>
  Uint8Array.from([...text].slice(0, length - 1).map((letter) => letter.charCodeAt(0) & 0xff));

/** Bytes of an option that holds addresses, text or a number. */
export const bytesOf = {
  addresses: (...addresses: string[]): Uint8Array => Uint8Array.from(addresses.flatMap((address) => address.split('.').map(Number))),
  text: (text: string): Uint8Array => utf8Bytes(text),
  u8: (value: number): Uint8Array => Uint8Array.of(value),
  u32: (value: number): Uint8Array => Uint8Array.from([24, 16, 8, 0].map((by) => (value >>> by) & 0xff)),
};
