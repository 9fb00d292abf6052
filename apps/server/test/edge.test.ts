import { expect, test } from '@jest/globals';
import { loggedAddress } from '../src/application.js';
import { readConfig, remarksOn } from '../src/config.js';
import { Doorway } from '../src/evidence/doorway.js';
import { databaseProblem } from '../src/problems/databaseProblem.js';

test('failures of the database as problems: PostgreSQL manual, appendix A', () => {
  for (const [error, status] of [
    [{ code: '53100' }, 507],
    [{ code: '53200' }, 503],
    [{ code: '57014' }, 503],
    [{ code: '57P01' }, 503],
    [{ code: '08006' }, 503],
    [{ code: 'ECONNREFUSED' }, 503],
    [{ message: 'Connection terminated unexpectedly' }, 503],
    [{ code: '23505' }, null],
    [new Error('anything else'), null],
  ] as const)
    expect([error, databaseProblem(error)?.problem.status ?? null]).toEqual([error, status]);
});

test('an address counts its tries, wrong ones apart, each window anew', () => {
  let now = 0;
  const doorway = new Doorway(60_000, 5, 2, () => now);
  expect(Array.from({ length: 6 }, () => doorway.tooMany('a'))).toEqual([false, false, false, false, false, true]);
  expect(doorway.tooMany('b')).toBe(false);
  // two that lead nowhere are answered, the third is turned away; what leads somewhere still goes on
  expect(['b', 'b', 'b'].map((address) => doorway.wrong(address))).toEqual([false, false, true]);
  expect(doorway.tooMany('b')).toBe(false);
  now = 59_999;
  expect(doorway.wrong('b')).toBe(true);
  now = 60_000;
  expect(doorway.wrong('b')).toBe(false);
});

test('nothing that opens something stands in a logged address', () => {
  expect(loggedAddress('/api/check/SECRETSECRETSECRET12/ws')).toBe('/api/check/…/ws');
  expect(loggedAddress('/api/session/provider/back?code=SECRET&state=S')).toBe('/api/session/provider/back?…');
  expect(loggedAddress('/api/check/SECRET?x=1')).toBe('/api/check/…?…');
});

test('with the demo only this machine is served; what has no effect is told', () => {
  const base = { DATABASE_URL: 'postgres://x', SECRET_KEY: 'k'.repeat(30) };
  expect(readConfig({ ...base, DEMO_FOLDER: 'demo' }).host).toBe('127.0.0.1');
  expect(readConfig(base).host).toBe('::');
  const told = (environment: Record<string, string>) => remarksOn(readConfig(environment), environment).join('\n');
  expect(told({ ...base, PUBLIC_URL: 'https://underpass.example' })).toBe('');
  expect(told(base)).toContain('PUBLIC_URL is not set');
  expect(told({ ...base, DEMO_FOLDER: 'demo', HOST: '0.0.0.0', PUBLIC_URL: 'https://u.example' })).toContain(
    'are not taken from other machines',
  );
  expect(told({ DATABASE_URL: 'x', PUBLIC_URL: 'https://u.example' })).toContain('SECRET_KEY is not set');
  for (const [wrong, name] of [
    [{ OIDC_ISSUER: 'https://id.example' }, 'OIDC_CLIENT_ID'],
    [{ SECRET_KEY: 'short' }, 'SECRET_KEY'],
    [{ TRUSTED_PROXY: 'everybody' }, 'TRUSTED_PROXY'],
    [{ METRICS_TOKEN: 'x' }, 'METRICS_TOKEN'],
  ] as const)
    expect(() => readConfig({ ...base, ...wrong })).toThrow(name);
  expect(() =>
    readConfig({ ...base, OIDC_ISSUER: 'https://id.example', OIDC_CLIENT_ID: 'a', OIDC_CLIENT_SECRET: 'b', OIDC_ROLES: 'x=king' }),
  ).toThrow('OIDC_ROLES');
});
