import { describe, expect, test } from '@jest/globals';
import { networkInterfaces } from 'node:os';
import fc from 'fast-check';
import { hashToken, newToken } from '../src/secrets/tokens.js';
import { cookieOf } from '../src/signin/cookies.js';
import { readConfig } from '../src/config.js';
import { uuidV7 } from '../src/database/uuid.js';
import { CheckRoom } from '../src/evidence/checkRoom.js';
import { readdressed } from '../src/evidence/datagrams.js';
import { isOwnRange, lineOf } from '../src/evidence/vantage.js';

describe('places for checks', () => {
  test('never more inside than there are, in order of coming, each with a slot of its own', () => {
    const action = fc.record({ who: fc.integer({ min: 0, max: 9 }), leaves: fc.boolean() });
    fc.assert(
      fc.property(fc.array(action, { maxLength: 60 }), fc.integer({ min: 1, max: 4 }), (actions, places) => {
        const room = new CheckRoom<number>(places);
        const inside = new Map<number, number>();
        const waiting: number[] = [];
        for (const { who, leaves } of actions) {
          if (leaves) {
            inside.delete(who);
            waiting.splice(0, waiting.length, ...waiting.filter((other) => other !== who));
            room.leave(who);
          } else if (!inside.has(who) && !waiting.includes(who)) {
            waiting.push(who);
            room.enter(
              who,
              (slot) => {
                expect(waiting[0]).toBe(who);
                waiting.shift();
                expect([...inside.values()]).not.toContain(slot);
                inside.set(who, slot);
              },
              (ahead) => expect(ahead).toBeGreaterThan(0),
            );
          }
          expect(inside.size).toBeLessThanOrEqual(places);
          expect(waiting.length === 0 || inside.size === places).toBe(true);
          for (const person of inside.keys()) expect(room.has(person)).toBe(true);
        }
      }),
    );
  });

  test('somebody who waits is told each time the queue moves', () => {
    const room = new CheckRoom<string>(1);
    const heard: number[] = [];
    for (const who of ['a', 'b', 'c', 'd'])
      room.enter(
        who,
        () => undefined,
        (ahead) => who === 'd' && heard.push(ahead),
      );
    room.leave('b');
    room.leave('a');
    expect(heard).toEqual([3, 2, 1]);
  });
});

describe('where a check comes from', () => {
  const lines = [{ port: 4601, udpFirst: 46_200 }];

  test('loopback and the server’s own addresses are not a desk; others are', () => {
    expect(isOwnRange('127.0.0.1')).toBe(true);
    expect(isOwnRange('::ffff:127.0.0.1')).toBe(true);
    expect(isOwnRange('::1')).toBe(true);
    for (const { address, family } of Object.values(networkInterfaces()).flatMap((list) => list ?? []))
      if (family === 'IPv4') expect(isOwnRange(address)).toBe(true);
    // a test machine may itself live in one of these ranges, not in all of them
    expect(['192.0.2.7', '198.51.100.9', '203.0.113.5'].some((far) => !isOwnRange(far))).toBe(true);
  });

  test('only loopback can come through a simulated line, and only by its port', () => {
    expect(lineOf(lines, '127.0.0.1', 'localhost:4601')).toBe(lines[0]);
    expect(lineOf(lines, '::ffff:127.0.0.1', '127.0.0.1:4601')).toBe(lines[0]);
    expect(lineOf(lines, '127.0.0.1', 'localhost:4600')).toBeUndefined();
    expect(lineOf(lines, '192.0.2.7', 'localhost:4601')).toBeUndefined();
    expect(lineOf(lines, '127.0.0.1', undefined)).toBeUndefined();
  });

  test('behind a line the browser is told the line’s port, and no other address of the server', () => {
    const sdp = [
      'v=0',
      'a=candidate:1 1 udp 2130706431 127.0.0.1 46100 typ host',
      'a=candidate:2 1 udp 2130706431 192.0.2.1 46101 typ host',
      'a=candidate:3 1 tcp 1 127.0.0.1 9 typ host',
      'a=end-of-candidates',
      '',
    ].join('\r\n');
    const answer = readdressed(sdp, (port) => port + 100);
    expect(answer.match(/^a=candidate.*$/gm)).toEqual(['a=candidate:1 1 udp 2130706431 127.0.0.1 46200 typ host']);
    expect(answer).toContain('a=end-of-candidates');
  });
});

describe('small keys', () => {
  test('tokens are long, differ, and only their hash would be kept', () => {
    const tokens = new Set(Array.from({ length: 500 }, newToken));
    expect(tokens.size).toBe(500);
    for (const token of tokens) {
      expect(token).toMatch(/^[A-Za-z0-9_-]{32}$/);
      expect(hashToken(token)).toMatch(/^[0-9a-f]{64}$/);
      expect(hashToken(token)).not.toContain(token);
    }
  });

  test('UUID version 7 sorts by its time and is marked as RFC 9562 says', () => {
    fc.assert(
      fc.property(fc.nat({ max: 2 ** 40 }), fc.nat({ max: 2 ** 30 }), (at, later) => {
        const [a, b] = [uuidV7(at), uuidV7(at + later + 1)];
        expect(a < b).toBe(true);
        expect(a).toMatch(/^[0-9a-f]{8}-[0-9a-f]{4}-7[0-9a-f]{3}-[89ab][0-9a-f]{3}-[0-9a-f]{12}$/);
        expect(parseInt(a.replaceAll('-', '').slice(0, 12), 16)).toBe(at);
      }),
    );
  });

  test('a cookie is found among others, whole, and not by a part of its name', () => {
    expect(cookieOf('a=1; underpass_session=abc; b=2', 'underpass_session')).toBe('abc');
    expect(cookieOf('xunderpass_session=abc', 'underpass_session')).toBeUndefined();
    expect(cookieOf(undefined, 'underpass_session')).toBeUndefined();
  });
});

describe('configuration', () => {
  test('comes from the environment with defaults, and a wrong value is told by its name', () => {
    expect(readConfig({ DATABASE_URL: 'postgres://x' })).toMatchObject({
      port: 4600,
      lines: [],
      checksAtOnce: 4,
      publicUrl: null,
      demoFolder: null,
    });
    expect(readConfig({ DATABASE_URL: 'postgres://x', SIMULATED_LINES: '4601>46200,4602>46210' }).lines).toEqual([
      { port: 4601, udpFirst: 46_200 },
      { port: 4602, udpFirst: 46_210 },
    ]);
    for (const [bad, name] of [
      [{ PORT: 'http' }, 'PORT'],
      [{ PUBLIC_URL: 'nowhere' }, 'PUBLIC_URL'],
      [{ SIMULATED_LINES: '4601' }, 'SIMULATED_LINES'],
      [{ DATABASE_URL: '' }, 'DATABASE_URL'],
    ] as const)
      expect(() => readConfig({ DATABASE_URL: 'postgres://x', ...bad })).toThrow(name);
  });
});
