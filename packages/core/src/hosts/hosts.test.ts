import { describe, expect, test } from '@jest/globals';
import type { Host, Pool } from '@underpass/contracts';
import { brokenRung, chooseHost, graphicsRungs } from './index.js';

const pool = { id: 'p', name: 'Pool', placement: 'spread' } as Pool;
const host = (id: string, more: Partial<Host> = {}): Host =>
  ({ id, name: id, pool: 'p', places: 10, used: 5, power: 'on', ...more }) as Host;
const chosen = (placement: Pool['placement'], ...hosts: Host[]) => chooseHost({ ...pool, placement }, hosts)?.id;

describe('the ladder to graphics in a host', () => {
  const ready = { card: true, driver: true, mode: 'display', usedForSessions: true, encoder: true } as const;

  test('is climbed in its order: the first rung that is missing is told, whatever is missing above it', () => {
    expect(graphicsRungs.map(({ field }) => field)).toEqual(['card', 'driver', 'mode', 'usedForSessions']);
    expect(brokenRung({ ...ready, card: false, driver: false, usedForSessions: false })?.field).toBe('card');
    expect(brokenRung({ ...ready, driver: false, mode: 'compute' })?.field).toBe('driver');
    expect(brokenRung({ ...ready, mode: 'compute', usedForSessions: false })?.field).toBe('mode');
    expect(brokenRung({ ...ready, usedForSessions: false })?.field).toBe('usedForSessions');
  });

  test('climbed, nothing is missing; of what nobody knows nothing is said', () => {
    expect(brokenRung(ready)).toBeNull();
    expect(brokenRung(undefined)).toBeUndefined();
  });
});

describe('the host a broker gives', () => {
  test('spread: the emptiest; filled: the fullest that has a place', () => {
    const hosts = [host('a', { used: 5 }), host('b', { used: 2 }), host('c', { used: 9 })];
    expect(chosen('spread', ...hosts)).toBe('b');
    expect(chosen('spread', ...hosts.reverse())).toBe('b');
    expect(chosen('fill first', ...hosts)).toBe('c');
    expect(chosen('fill first', ...hosts.reverse())).toBe('c');
  });

  test('one with its last place still counts, one without comes last even awake', () => {
    const last = host('last', { used: 9 });
    const full = host('full', { used: 10 });
    expect(chosen('fill first', full, last)).toBe('last');
    expect(chosen('fill first', last, full)).toBe('last');
    expect(chosen('fill first', full, host('off', { used: 0, power: 'off' }))).toBe('off');
    expect(chosen('spread', full)).toBe('full');
  });

  test('awake before asleep before off; power comes before placement', () => {
    const [on, asleep, off] = [
      host('on', { used: 9 }),
      host('asleep', { used: 1, power: 'asleep' }),
      host('off', { used: 0, power: 'off' }),
    ];
    expect(chosen('spread', off, asleep, on)).toBe('on');
    expect(chosen('spread', off, asleep)).toBe('asleep');
    expect(chosen('spread', asleep, off)).toBe('asleep');
  });

  test('what is not known to be used is free; equals go by id; no host, none', () => {
    const { used: _, ...unknown } = host('x');
    expect(chosen('spread', host('a', { used: 1 }), unknown as Host)).toBe('x');
    expect(chosen('spread', host('b'), host('a'))).toBe('a');
    expect(chosen('fill first', host('a'), host('b'))).toBe('a');
    expect(chosen('spread')).toBeUndefined();
  });
});
