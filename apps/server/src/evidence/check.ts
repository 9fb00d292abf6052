import type { Figures, ToPage } from '@underpass/contracts';
import type { WebSocket } from 'ws';
import type { CheckLink } from '../database/entities.js';
import type { DatagramEcho } from './datagrams.js';
import type { TransferCount } from './transfers.js';

/** One page with a field check open, and what it has measured so far. */
export class Check implements TransferCount {
  upBytes = 0;
  downBytes = 0;
  slot = -1;
  figures: Figures = {};
  done = false;
  kept = false;
  echo: DatagramEcho | null = null;
  timer: NodeJS.Timeout | null = null;
  messages = 0;
  /** Messages that are long to read. */
  large = 0;
  offers = 0;
  left = false;
  constructor(
    readonly token: string,
    readonly link: CheckLink,
    readonly socket: WebSocket,
    readonly remote: string,
    readonly host: string | undefined,
  ) {}
  say(message: ToPage): void {
    if (this.socket.readyState === this.socket.OPEN) this.socket.send(JSON.stringify(message));
  }
}
