import { Inject, Injectable, Logger, type BeforeApplicationShutdown } from '@nestjs/common';
import { completed, type EndedWhy, faultOfJsonShape, faultOfTexts, FromPage, type Measurement } from '@underpass/contracts';
import { learnedOf } from '@underpass/core';
import type { IncomingMessage, Server } from 'node:http';
import type { Duplex } from 'node:stream';
import { WebSocketServer, type WebSocket } from 'ws';
import { CONFIG, type Config } from '../config.js';
import type { CheckLink } from '../database/entities.js';
import { Check } from './check.js';
import { uuidV7 } from '../database/uuid.js';
import { ChangeService } from '../estate/change.service.js';
import { ownName } from '../estate/changeHistory.service.js';
import { TrustedProxies } from '../edge/address.js';
import { databaseProblem } from '../problems/databaseProblem.js';
import { logFailure } from '../problems/lastResort.js';
import { SecurityLog } from '../securityLog/securityLog.service.js';
import { EstateStore } from '../estate/estate.store.js';
import { CheckRoom } from './checkRoom.js';
import { echoDatagrams } from './datagrams.js';
import { Doorway } from './doorway.js';
import { goneBecause, CheckLinkService } from './checkLink.service.js';
import type { TransferCount } from './transfers.js';
import { plainAddress } from '../edge/plainAddress.js';
import { isOwnRange, lineOf } from './vantage.js';

/** A check takes under 40 s; one that is longer than this is ended, and its parts are kept. */
const longestCheckMs = 120_000;
/** A page that only stands open. */
const longestOpenMs = 30 * 60_000;
/** A check says about 400 things, 20 of them long. */
const mostMessages = 5000;
const mostLarge = 200;
const mostOffers = 4;
const mostSockets = 500;
/** Upgrades of one address a minute, which a whole office may share: each costs a look into the database, no more. */
const mostUpgrades = 6000;
const mostWrongTokens = 30;

function refuse(socket: Duplex, status: string): void {
  socket.end(`HTTP/1.1 ${status}\r\nconnection: close\r\ncontent-length: 0\r\n\r\n`, () => socket.destroy());
}

/** The live side of field checks: round trips, datagrams and progress over one WebSocket per page. */
@Injectable()
export class CheckGateway implements BeforeApplicationShutdown {
  private readonly logger = new Logger('field check');
  private readonly room: CheckRoom<Check>;
  private readonly checks = new Map<string, Check>();
  private readonly doorway = new Doorway(60_000, mostUpgrades, mostWrongTokens, () => Date.now());
  private readonly leaving = new Set<Promise<void>>();
  private readonly sockets = new WebSocketServer({ noServer: true, maxPayload: 64 * 1024, perMessageDeflate: false });

  constructor(
    private readonly links: CheckLinkService,
    private readonly changes: ChangeService,
    private readonly store: EstateStore,
    private readonly log: SecurityLog,
    private readonly proxies: TrustedProxies,
    @Inject(CONFIG) private readonly config: Config,
  ) {
    this.room = new CheckRoom(config.checksAtOnce);
  }

  /** Takes over the WebSocket upgrades of a server. */
  attach(server: Server): void {
    server.on('upgrade', (request, socket, head) => {
      // before anything is awaited: a connection may be torn at any moment
      socket.on('error', () => socket.destroy());
      this.admit(request, socket, head).catch((error: unknown) => {
        refuse(socket, databaseProblem(error) ? '503 Service Unavailable' : '500 Internal Server Error');
        if (!databaseProblem(error)) logFailure('upgrade', error);
      });
    });
  }

  private async admit(request: IncomingMessage, socket: Duplex, head: Buffer): Promise<void> {
    const address = this.proxies.addressOf(request);
    if (this.doorway.tooMany(address)) return refuse(socket, '429 Too Many Requests');
    const token = /^\/api\/check\/([A-Za-z0-9_-]{20,60})\/ws$/.exec(request.url ?? '')?.[1];
    if (!token) return refuse(socket, '404 Not Found');
    // a page of another origin has no business here
    if (!this.ownOrigin(request)) return refuse(socket, '403 Forbidden');
    if (this.sockets.clients.size >= mostSockets) return refuse(socket, '503 Service Unavailable');
    const link = await this.links.byToken(token);
    if (!link || goneBecause(link)) {
      // the log tells of the first ones; of a flood it tells that there was one
      if (this.doorway.wrong(address)) return refuse(socket, '429 Too Many Requests');
      if (!link) await this.log.record('token refused', { address });
      return refuse(socket, link ? '410 Gone' : '404 Not Found');
    }
    if (socket.destroyed) return;
    this.sockets.handleUpgrade(request, socket, head, (ws) => this.connect(token, link, ws, request, address));
  }

  private ownOrigin(request: IncomingMessage): boolean {
    const { origin, host } = request.headers;
    if (origin === undefined) return true;
    if (!URL.canParse(origin)) return false;
    const asked = new URL(origin);
    if (!/^https?:$/.test(asked.protocol)) return false;
    return asked.host === host || (this.config.publicUrl !== null && asked.origin === new URL(this.config.publicUrl).origin);
  }

  get open(): number {
    return this.sockets.clients.size;
  }
  get waiting(): number {
    return this.room.waiting;
  }

  running = (token: string): TransferCount | undefined => {
    const check = this.checks.get(token);
    return check && this.room.has(check) ? check : undefined;
  };

  /** Before the database is let go: what open checks have measured is kept. */
  async beforeApplicationShutdown(): Promise<void> {
    for (const socket of this.sockets.clients) socket.terminate();
    for (const check of this.checks.values()) this.leaveSafely(check);
    await Promise.all(this.leaving);
  }

  private connect(token: string, link: CheckLink, socket: WebSocket, request: IncomingMessage, address: string): void {
    const check = new Check(token, link, socket, address, request.headers.host);
    // the same link opened again takes over: the earlier page is told, and its place is free at once whatever it does
    const earlier = this.checks.get(token);
    this.checks.set(token, check);
    if (earlier) this.dismiss(earlier, 'opened elsewhere');
    const longest = setTimeout(() => this.dismiss(check, 'open too long'), longestOpenMs);
    socket.on('message', (data, binary) => {
      let message: FromPage;
      try {
        if (binary || ++check.messages > mostMessages) throw new Error('is more than a check says');
        const text = String(data as Buffer);
        if (text.length > 500 && ++check.large > mostLarge) throw new Error('is more than a check says');
        if (faultOfJsonShape(text)) throw new Error('is no message');
        const content: unknown = JSON.parse(text);
        if (faultOfTexts(content)) throw new Error('holds what cannot be kept');
        message = FromPage.parse(content);
      } catch {
        return this.dismiss(check, 'not understood');
      }
      this.take(check, message).catch((error: unknown) => this.failed(check, error));
    });
    socket.on('close', () => {
      clearTimeout(longest);
      this.leaveSafely(check);
    });
    socket.on('error', () => socket.terminate());
  }

  /** Lets a page go: told why, its place is given on, and the connection is cut if it does not close. */
  private dismiss(check: Check, because: EndedWhy, id?: string): void {
    check.say({ type: 'ended', because, ...(id === undefined ? {} : { id }) });
    check.socket.close();
    setTimeout(() => check.socket.terminate(), 500).unref();
    this.leaveSafely(check);
  }

  /** What fails in a check is told on its page; the others go on. */
  private failed(check: Check, error: unknown): void {
    if (check.socket.readyState !== check.socket.OPEN) return;
    if (databaseProblem(error)) this.dismiss(check, 'server cannot keep');
    else this.dismiss(check, 'server failed', logFailure('field check', error));
  }

  private leaveSafely(check: Check): void {
    if (check.left) return;
    check.left = true;
    const leaving: Promise<void> = this.leave(check)
      .catch((error: unknown) => {
        if (!databaseProblem(error)) logFailure('field check', error);
        else this.logger.warn('a field check that was cut short could not be kept: the database does not answer');
      })
      .finally(() => this.leaving.delete(leaving));
    this.leaving.add(leaving);
  }

  private async take(check: Check, message: FromPage): Promise<void> {
    if (message.type === 'ping') return check.say({ type: 'pong', n: message.n });
    if (message.type === 'start') {
      await this.links.progress(check.link.id, 'waiting', '');
      // it may have left meanwhile: a place that nobody gives back would be lost for good
      if (check.left) return;
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
    check.timer = setTimeout(() => this.dismiss(check, 'took too long'), longestCheckMs);
    this.links.progress(check.link.id, 'measuring', 'round trips').catch((error: unknown) => this.failed(check, error));
    check.say({ type: 'go' });
  }

  private async answer(check: Check, sdp: string): Promise<void> {
    if (++check.offers > mostOffers) return this.dismiss(check, 'asked too often');
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
        plainAddress(check.remote),
      );
      check.say({ type: 'answer', sdp: check.echo.answer });
    } catch (error) {
      this.logger.warn(`datagrams: ${(error as Error).message}`);
      check.say({ type: 'no datagrams', because: 'the server could not open its side' });
    }
  }

  private async finish(check: Check): Promise<void> {
    const fromDesk = await this.keep(check);
    if (fromDesk) await this.learn(check);
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
    const { organisation, endpoints } = this.store.model;
    const medium = link.endpoint ? endpoints.get(link.endpoint)?.connection : undefined;
    const measurement: Measurement = {
      id: uuidV7(),
      at: new Date().toISOString(),
      by: person ?? 'field check',
      method: 'field check',
      vantage: fromDesk ? 'desk' : 'not the desk',
      ...(link.endpoint ? { endpoint: link.endpoint } : {}),
      ...(link.person ? { person: link.person } : {}),
      location: link.location,
      ...(organisation.checkRegion ? { target: organisation.checkRegion } : {}),
      ...(medium ? { medium } : {}),
      partial: !check.done,
      ...(line ? { note: 'through the simulated line' } : {}),
      figures: check.figures,
    };
    await this.changes.keepMeasurements([measurement], `Field check ${link.endpoint ?? `at ${link.location}`}`);
    return fromDesk;
  }

  /** An endpoint of which next to nothing was known gets what its check says; what somebody said of it is left to them. */
  private async learn({ link, figures }: Check): Promise<void> {
    const id = link.endpoint;
    if (id === null || !this.store.model.endpoints.get(id)?.assumed) return;
    const plan = () => {
      const before = this.store.model.endpoints.get(id);
      if (!before?.assumed) return [];
      const set = learnedOf(before, figures).filter(({ was, field }) => was !== 'otherwise' && field !== 'screens' && field !== 'decoders');
      if (set.length === 0) return [];
      const after = { ...before, ...Object.fromEntries(set.map(({ field, found }) => [field, found])) };
      const assumed = before.assumed.filter((name) => !set.some(({ field }) => field === name));
      return [
        {
          kind: 'endpoint' as const,
          id,
          before,
          after: completed('endpoint', { ...after, assumed: assumed.length ? assumed : undefined }),
        },
      ];
    };
    if (plan().length > 0) await this.changes.apply(plan, ownName, `Field check of ${id}`, { source: 'device' });
  }

  private release(check: Check): void {
    if (check.timer) clearTimeout(check.timer);
    check.timer = null;
    check.echo?.close().catch(() => undefined);
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
