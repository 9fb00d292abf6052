import { createSocket, type Socket as UdpSocket } from 'node:dgram';
import { connect, createServer, type Server, type Socket } from 'node:net';
import { seeded, Shaper, type WayProfile } from './shaper.js';

export interface LineOptions {
  /** Port people connect to instead of the server's. */
  port: number;
  server: { host: string; port: number };
  up: WayProfile;
  down: WayProfile;
  /** UDP ports relayed one to one: `first + i` goes to `serverFirst + i`. */
  udp?: { first: number; serverFirst: number; count: number };
  /** Datagrams do not pass at all. */
  udpBlocked?: boolean;
  seed?: number;
}

export interface Line {
  close: () => Promise<void>;
  /** Datagrams seen and dropped since the start, by direction. */
  datagrams: { up: number; upLost: number; down: number; downLost: number };
}

/** Pieces in which TCP data passes, so that streams and round trips interleave as packets would. */
const pieceBytes = 8 * 1024;
/** A stream that sends less than this at a time does not fill the queue and is not slowed. */
const smallBytes = 2048;

/** A line between a person and a server, simulated in user space: TCP and UDP with delay, jitter, rate, stalls and loss. */
export async function openLine(options: LineOptions): Promise<Line> {
  const random = seeded(options.seed ?? 7);
  const up = new Shaper(options.up, random);
  const down = new Shaper(options.down, random);
  const sockets = new Set<Socket>();
  const server = createServer({ noDelay: true, allowHalfOpen: true }, (person) => {
    const far = connect({ ...options.server, noDelay: true, allowHalfOpen: true });
    for (const socket of [person, far]) {
      sockets.add(socket);
      socket.on('close', () => sockets.delete(socket));
      socket.on('error', () => {
        person.destroy();
        far.destroy();
      });
    }
    relay(person, far, up);
    relay(far, person, down);
  });
  await new Promise<void>((resolve, reject) => server.once('error', reject).listen(options.port, '127.0.0.1', resolve));
  const datagrams = { up: 0, upLost: 0, down: 0, downLost: 0 };
  const udp = options.udp ? await openUdp(options, up, down, datagrams) : [];
  return { datagrams, close: () => closeAll(server, sockets, udp, up, down) };
}

function relay(from: Socket, to: Socket, way: Shaper): void {
  from.on('data', (data) => {
    for (let at = 0; at < data.length; at += pieceBytes) {
      const piece = data.subarray(at, at + pieceBytes);
      way.pass({ bytes: piece.length, deliver: () => !to.destroyed && to.write(piece) });
    }
    // a full queue slows the sender, as a real line does through TCP
    if (way.full && data.length > smallBytes) {
      from.pause();
      setTimeout(() => from.resume(), Math.max(1, way.backlogMs / 2));
    }
  });
  from.on('end', () => way.pass({ bytes: 0, deliver: () => to.end() }));
}

async function openUdp(
  { udp, server, udpBlocked }: LineOptions,
  up: Shaper,
  down: Shaper,
  counts: Line['datagrams'],
): Promise<UdpSocket[]> {
  const all: UdpSocket[] = [];
  for (let i = 0; udp && i < udp.count; i++) {
    const near = createSocket('udp4');
    all.push(near);
    const flows = new Map<string, UdpSocket>();
    near.on('message', (message, person) => {
      counts.up++;
      if (udpBlocked || up.loses() || up.full) return void counts.upLost++;
      const key = `${person.address}:${person.port}`;
      let far = flows.get(key);
      if (!far) {
        far = createSocket('udp4');
        all.push(far);
        flows.set(key, far);
        far.on('message', (answer) => {
          counts.down++;
          if (down.loses() || down.full) return void counts.downLost++;
          down.pass({ bytes: answer.length + 28, deliver: () => send(near, answer, person.port, person.address) });
        });
        far.on('error', () => undefined);
      }
      const socket = far;
      up.pass({ bytes: message.length + 28, deliver: () => send(socket, message, udp.serverFirst + i, server.host) });
    });
    await new Promise<void>((resolve, reject) => {
      near.once('error', reject);
      near.bind(udp.first + i, '127.0.0.1', resolve);
    });
  }
  return all;
}

function send(socket: UdpSocket, message: Uint8Array, port: number, address: string): void {
  try {
    socket.send(message, port, address, () => undefined);
  } catch {
    // closed in the meantime: the datagram is lost, as datagrams may be
  }
}

async function closeAll(server: Server, sockets: Set<Socket>, udp: UdpSocket[], up: Shaper, down: Shaper): Promise<void> {
  up.close();
  down.close();
  for (const socket of udp)
    try {
      socket.close();
    } catch {
      // closed already
    }
  for (const socket of sockets) socket.destroy();
  await new Promise<void>((resolve) => server.close(() => resolve()));
}
