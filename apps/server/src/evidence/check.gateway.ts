import { Inject, Injectable, Logger, type BeforeApplicationShutdown } from '@nestjs/common';
import { faultOfTexts, FromPage, type Figures, type Measurement, type ToPage } from '@underpass/contracts';
import type { IncomingMessage, Server } from 'node:http';
import { WebSocketServer, type WebSocket } from 'ws';
import { CONFIG, type Config } from '../config.js';
import type { CheckLink } from '../database/entities.js';
import { uuidV7 } from '../database/uuid.js';
import { ChangeService } from '../estate/change.service.js';
import { EstateStore } from '../estate/estate.store.js';
import { CheckRoom } from './checkRoom.js';
import { echoDatagrams, type DatagramEcho } from './datagrams.js';
import { goneBecause, LinkService } from './link.service.js';
import type { TransferCount } from './transfers.js';
import { isOwnRange, lineOf, plainAddress } from './vantage.js';

/** A check takes under 40 s; one that is longer than this is ended, and its parts are kept. */
const longestCheckMs = 120_000;

class Check implements TransferCount {
  upBytes = 0;
  downBytes = 0;
  slot = -1;
  figures: Figures = {};
  done = false;
  kept = false;
  echo: DatagramEcho | null = null;
  timer: NodeJS.Timeout | null = null;
  messages = 0;
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

/** The live side of field checks: round trips, datagrams and progress over one WebSocket per page. */
@Injectable()
export class CheckGateway implements BeforeApplicationShutdown {
  private readonly logger = new Logger('field check');
  private readonly room: CheckRoom<Check>;
  private readonly checks = new Map<string, Check>();
  private readonly leaving = new Set<Promise<void>>();
  private readonly sockets = new WebSocketServer({ noServer: true, maxPayload: 64 * 1024, perMessageDeflate: false });

  constructor(
    private readonly links: LinkService,
    private readonly changes: ChangeService,
    private readonly store: EstateStore,
    @Inject(CONFIG) private readonly config: Config,
  ) {
    this.room = new CheckRoom(config.checksAtOnce);
  }

  /** Takes over the WebSocket upgrades of a server. */
  attach(server: Server): void {
    server.on('upgrade', (request, socket, head) => {
      const token = /^\/api\/check\/([A-Za-z0-9_-]{20,60})\/ws$/.exec(request.url ?? '')?.[1];
      if (!token) return void socket.destroy();
      // a page of another origin has no business here
      const origin = request.headers.origin;
      if (origin && new URL(origin).host !== request.headers.host) return void socket.destroy();
      this.links
        .byToken(token)
        .then((link) => {
          if (!link || goneBecause(link)) return void socket.destroy();
          this.sockets.handleUpgrade(request, socket, head, (ws) => this.connect(token, link, ws, request));
        })
        .catch(() => socket.destroy());
    });
  }

  running = (token: string): TransferCount | undefined => {
    const check = this.checks.get(token);
    return check && this.room.has(check) ? check : undefined;
  };

  /** Before the database is let go: what open checks have measured is kept. */
  async beforeApplicationShutdown(): Promise<void> {
    for (const socket of this.sockets.clients) socket.terminate();
    await Promise.all([...this.checks.values()].map((check) => this.leave(check)));
    await Promise.all(this.leaving);
  }

  private connect(token: string, link: CheckLink, socket: WebSocket, request: IncomingMessage): void {
    // the same link opened again takes over: the earlier page is told
    this.checks.get(token)?.say({ type: 'ended', because: 'This link was opened on another page.' });
    this.checks.get(token)?.socket.close();
    const check = new Check(token, link, socket, request.socket.remoteAddress ?? '', request.headers.host);
    this.checks.set(token, check);
    socket.on('message', (data) => {
      let message: FromPage;
      try {
        const content: unknown = JSON.parse(String(data as Buffer));
        if (faultOfTexts(content)) throw new Error('holds what cannot be kept');
        message = FromPage.parse(content);
      } catch {
        return check.say({ type: 'ended', because: 'The page and the server do not understand each other. Reload the page.' });
      }
      this.take(check, message).catch((error: Error) => this.logger.error(error.stack ?? error.message));
    });
    socket.on('close', () => {
      const leaving = this.leave(check)
        .catch((error: Error) => this.logger.error(error.message))
        .finally(() => this.leaving.delete(leaving));
      this.leaving.add(leaving);
    });
    socket.on('error', () => socket.terminate());
  }

  private async take(check: Check, message: FromPage): Promise<void> {
    if (++check.messages > 5000) return check.socket.close();
    if (message.type === 'ping') return check.say({ type: 'pong', n: message.n });
    if (message.type === 'start') {
      await this.links.progress(check.link.id, 'waiting', '');
      return this.room.enter(
        check,
        (slot) => this.go(check, slot),
        (ahead) => check.say({ type: 'queued', ahead }),
      );
    }
    if (!this.room.has(check)) return;
    switch (message.type) {
      case 'step':
        return this.links.progress(check.link.id, 'measuring', message.step);
      case 'offer':
        return this.answer(check, message.sdp);
      case 'count':
        return check.say({ type: 'counted', bytes: check.upBytes, atMs: performance.now() });
      case 'figures':
        check.figures = message.figures;
        check.done = message.done;
        if (message.done) await this.finish(check);
    }
  }

  private go(check: Check, slot: number): void {
    Object.assign(check, { slot, upBytes: 0, downBytes: 0, figures: {}, done: false, kept: false });
    check.timer = setTimeout(() => {
      check.say({ type: 'ended', because: 'The check took too long.' });
      check.socket.close();
    }, longestCheckMs);
    void this.links.progress(check.link.id, 'measuring', 'round trips');
    check.say({ type: 'go' });
  }

  private async answer(check: Check, sdp: string): Promise<void> {
    await check.echo?.close().catch(() => undefined);
    const line = lineOf(this.config.lines, check.remote, check.host);
    const port = this.config.checkUdpFirst + 2 * check.slot;
    const loopback = plainAddress(check.remote).startsWith('127.');
    try {
      check.echo = await echoDatagrams(
        sdp,
        port,
        line ? (own) => line.udpFirst + (own - this.config.checkUdpFirst) : null,
        loopback ? '127.0.0.1' : null,
      );
      check.say({ type: 'answer', sdp: check.echo.answer });
    } catch (error) {
      this.logger.warn(`datagrams: ${(error as Error).message}`);
      check.say({ type: 'no datagrams', because: 'the server could not open its side' });
    }
  }

  private async finish(check: Check): Promise<void> {
    const fromDesk = await this.keep(check);
    await this.links.progress(check.link.id, 'finished', '');
    check.say({ type: 'kept', done: true, fromDesk });
    this.release(check);
  }

  /** Keeps what was measured; parts of an interrupted check are kept and say so. */
  private async keep(check: Check): Promise<boolean> {
    const line = lineOf(this.config.lines, check.remote, check.host);
    const fromDesk = line !== undefined || !isOwnRange(check.remote);
    if (check.kept || Object.keys(check.figures).length === 0) return fromDesk;
    check.kept = true;
    const { link } = check;
    const person = link.person ? this.store.model.people.get(link.person)?.name : undefined;
    const measurement: Measurement = {
      id: uuidV7(),
      at: new Date().toISOString(),
      by: person ?? 'field check',
      method: 'field check',
      vantage: fromDesk ? 'desk' : 'not the desk',
      ...(link.endpoint ? { endpoint: link.endpoint } : {}),
      ...(link.person ? { person: link.person } : {}),
      location: link.location,
      partial: !check.done,
      ...(line ? { note: 'through the simulated line' } : {}),
      figures: check.figures,
    };
    await this.changes.keepMeasurements([measurement], `Field check ${link.endpoint ?? `at ${link.location}`}`);
    return fromDesk;
  }

  private release(check: Check): void {
    if (check.timer) clearTimeout(check.timer);
    check.timer = null;
    void check.echo?.close().catch(() => undefined);
    check.echo = null;
    this.room.leave(check);
  }

  private async leave(check: Check): Promise<void> {
    if (this.checks.get(check.token) === check) this.checks.delete(check.token);
    const ran = this.room.has(check);
    this.release(check);
    if (ran && !check.done) {
      await this.keep(check);
      await this.links.progress(check.link.id, 'stopped', '');
    }
  }
}
