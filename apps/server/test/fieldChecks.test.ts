import { afterAll, beforeAll, describe, expect, test } from '@jest/globals';
import { createSocket } from 'node:dgram';
import { WebSocket } from 'ws';
import { CheckGreeting, type CheckLinkView } from '@underpass/contracts';
import { ownCandidates } from '../src/evidence/datagrams.js';
import { runServer, type RunningServer, type Visitor } from './attack/process.js';
import { until } from './attack/until.js';
import { makeDatabase, people } from './server.js';

describe('field checks made to hurt', () => {
  let database: Awaited<ReturnType<typeof makeDatabase>>;
  let server: RunningServer;
  let engineer: Visitor;
  beforeAll(async () => {
    database = await makeDatabase('demo');
    server = await runServer(database.url, 45_300, { CHECKS_AT_ONCE: '2' });
    engineer = await server.signIn(people.engineer);
  }, 60_000);
  afterAll(async () => {
    await server.stop();
    await database.drop();
  });
  const link = async (headers: Record<string, string> = {}) =>
    ((await engineer.call('check-links', 'POST', { location: 'wexcombe' }, headers)).body as CheckLinkView).url as string;
  const open = async (url: string) => {
    const socket = new WebSocket(`ws://127.0.0.1:${server.port}/api/check/${url.split('/check/')[1]}/ws`);
    const heard: { type: string; sdp?: string }[] = [];
    socket.on('message', (data) => heard.push(JSON.parse(String(data as Buffer)) as { type: string }));
    socket.on('error', () => undefined);
    await new Promise((resolve) => socket.once('open', resolve));
    return { socket, heard, say: (message: object) => socket.send(JSON.stringify(message)) };
  };

  test('pages of one link that ignore their end hold no place', async () => {
    const url = await link();
    const deaf = [];
    for (let i = 0; i < 4; i++) {
      const page = await open(url);
      page.say({ type: 'start' });
      // a page that never answers the close
      (page.socket as unknown as { _receiver: { removeAllListeners: (event: string) => void } })._receiver.removeAllListeners('conclude');
      deaf.push(page);
    }
    const others = [await open(await link())];
    for (const page of others) page.say({ type: 'start' });
    expect(await until(() => others.every(({ heard }) => heard.some(({ type }) => type === 'go')), 2000)).toBe(true);
    for (const { socket } of [...deaf, ...others]) socket.terminate();
  });

  test('the page is told what is wanted of the way by the work of whom it is for, and nothing that identifies anybody', async () => {
    const told = async (of: object) => {
      const { url } = (await engineer.call('check-links', 'POST', of)).body as CheckLinkView;
      return CheckGreeting.strict().parse((await engineer.call(`check/${url?.split('/check/')[1]}`)).body);
    };
    // a designer of the demo: their hull desktop wants 100 ms and 30 frames; whoever comes to a hall is taken for office work and calls
    const designer = await told({ location: 'gullsey', person: 'P249' });
    expect(designer).toMatchObject({ firstName: 'Kezia', wanted: { keyToPixelMs: 100, framesAtLeast: 30 } });
    expect(JSON.stringify(designer)).not.toMatch(/P249|Zeller|gullsey"/);
    expect((await told({ location: 'wexcombe' })).wanted).toEqual({
      keyToPixelMs: 150,
      framesAtLeast: 20,
      voiceMosAtLeast: 4,
      lossAtMostPercent: 5,
      calls: true,
      camera: true,
    });
  });

  test('the first frame that is no message ends the page', async () => {
    for (const junk of [
      '[',
      '{"type":"start","more":1}',
      `${'['.repeat(30_000)}`,
      JSON.stringify({ type: 'ping', n: 'x' }),
      Buffer.alloc(20_000),
    ]) {
      const page = await open(await link());
      const closed = new Promise((resolve) => page.socket.once('close', () => resolve(true)));
      for (let i = 0; i < 50; i++) page.socket.send(junk);
      expect(await Promise.race([closed, new Promise((resolve) => setTimeout(() => resolve(false), 2000))])).toBe(true);
      expect(page.heard.filter(({ type }) => type === 'ended')).toHaveLength(1);
    }
  });

  test('an offer makes the server send to nobody but the page itself, a few datagrams at most', async () => {
    const third = createSocket('udp4');
    let got = 0;
    third.on('message', () => got++);
    await new Promise<void>((resolve) => third.bind(0, '127.0.0.2', resolve));
    const page = await open(await link());
    page.say({ type: 'start' });
    expect(await until(() => page.heard.some(({ type }) => type === 'go'))).toBe(true);
    const { port } = third.address();
    const candidates = Array.from(
      { length: 60 },
      (_, i) => `a=candidate:${i} 1 udp 2122260223 127.0.0.2 ${port} typ host\r\na=candidate:9${i} 1 udp 1 third.example ${port} typ host`,
    ).join('\r\n');
    page.say({
      type: 'offer',
      sdp: `v=0\r\no=- 1 2 IN IP4 127.0.0.1\r\ns=-\r\nt=0 0\r\na=group:BUNDLE 0\r\na=msid-semantic: WMS\r\nm=application 9 UDP/DTLS/SCTP webrtc-datachannel\r\nc=IN IP4 127.0.0.2\r\na=ice-ufrag:abcd\r\na=ice-pwd:abcdefghijklmnopqrstuvwx\r\na=fingerprint:sha-256 ${Array(32).fill('AA').join(':')}\r\na=setup:actpass\r\na=mid:0\r\na=sctp-port:5000\r\na=max-message-size:262144\r\n${candidates}\r\n`,
    });
    expect(await until(() => page.heard.some(({ type }) => type === 'answer'), 5000)).toBe(true);
    await new Promise((resolve) => setTimeout(resolve, 2500));
    expect(got).toBe(0);
    page.socket.terminate();
    third.close();
    const offer = `x\r\n${Array.from({ length: 20 }, (_, i) => `a=candidate:${i} 1 UDP 1 192.0.2.7 ${5000 + i} typ host`).join('\r\n')}\r\na=candidate:1 1 udp 1 192.0.2.8 5000 typ host\r\na=candidate:1 1 udp 1 192.0.2.7 53 typ host\r\ny`;
    expect(ownCandidates(offer, '192.0.2.7').match(/a=candidate/g)).toHaveLength(8);
    expect(ownCandidates(offer, null)).toBe('x\r\ny');
  });

  test('a link is made of the configured address, whatever the request says', async () => {
    expect(await link({ 'x-forwarded-host': 'evil.example', 'x-forwarded-proto': 'https' })).toMatch(
      new RegExp(`^http://localhost:${server.port}/check/`),
    );
    const raw = await server.raw(
      `POST /api/check-links HTTP/1.1\r\nHost: evil.example\r\nX-Underpass: 1\r\nCookie: ${engineer.cookie}\r\nContent-Type: application/json\r\nContent-Length: 23\r\nConnection: close\r\n\r\n{"location":"wexcombe"}`,
    );
    expect(raw).toContain(`http://localhost:${server.port}/check/`);
    expect(raw).not.toContain('evil.example');
  });
});
