import { expect, test, type Page } from '@playwright/test';
import { directory } from '@underpass/standins';
import { execFile } from 'node:child_process';
import { mkdirSync, mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { promisify } from 'node:util';
import SCIMMY from 'scimmy';
import { runCheck } from './pages/app.js';
import { freshAt, signInFresh } from './pages/fresh.js';

/** Asks the server the page is of. */
const ask = <T>(page: Page, path: string, body?: object): Promise<T> =>
  page.evaluate(
    async ([to, content]) => {
      const headers = { 'x-underpass': '1', 'content-type': 'application/json' };
      const answer = await fetch(`/api/${to as string}`, content ? { method: 'POST', headers, body: JSON.stringify(content) } : {});
      return (await answer.json()) as never;
    },
    [path, body] as const,
  ) as Promise<T>;
/** Whether somebody sees what this file made: others make something of their own on the same server. */
const sees = async (page: Page, id: string): Promise<string[]> =>
  (await ask<{ now: { name: string }[] }>(page, `access/people/${id}`)).now
    .map(({ name }) => name)
    .filter((name) => name === 'Pier desktop');

test('from a directory with nested groups: tried, read, who sees what is right; where a third would leave it stops', async ({
  page,
  baseURL,
}) => {
  test.skip(!directory.hasSlapd, 'there is no directory server to read');
  const { base, dnOf, dnOfGroup, group, person, reader, startSlapd, unit } = directory;
  const slapd = await startSlapd();
  try {
    const all = Array.from({ length: 30 }, (_, i) => ({
      uid: `dir${i}`,
      name: `Person ${i} Direct`,
      ou: i % 2 ? 'West pier' : 'East pier',
    }));
    const load = (list: typeof all) =>
      slapd.load(
        [
          ...['Groups', 'West pier', 'East pier'].map(unit),
          ...list.map(({ uid, name, ou }) => person(uid, name, ou)),
          group('Evening', [dnOf('dir1', 'West pier'), dnOf('dir3', 'West pier')]),
          group('People who were checked', [dnOfGroup('Evening'), dnOf('dir2', 'East pier')]),
        ].join('\n'),
      );
    await load(all);
    await signInFresh(page, baseURL);
    // something to see: what somebody opens, given to a group
    await ask(page, 'intake/one', { name: 'First', address: 'first.example.org', what: 'Pier desktop' });
    await page.goto(new URL('/estate/sources', page.url()).href);
    await page.getByRole('button', { name: 'Add a directory that is read' }).click();
    const form = page.locator('form').filter({ has: page.locator('#ldap-address') });
    await form.getByLabel('Name').fill('Staff');
    await form.getByLabel('Address').fill(slapd.secure.replace('127.0.0.1', 'localhost'));
    await form.getByLabel('Beneath the entry').fill(base);
    await form.getByLabel('Signs in as').fill(reader.dn);
    await form.getByLabel('Password').fill(reader.secret);
    // what is typed is there after a reload, the password alone is not
    await page.waitForTimeout(400);
    await page.reload();
    await expect(form.getByLabel('Beneath the entry')).toHaveValue(base);
    await expect(form.getByLabel('Password')).toHaveValue('');
    expect(await page.evaluate(() => JSON.stringify(sessionStorage))).not.toContain(reader.secret);
    await form.getByLabel('Password').fill(reader.secret);
    await form.getByRole('button', { name: 'Try it' }).click();
    await expect(form.getByRole('alert')).toContainText('is not vouched for');
    await form.getByText('Who vouches for its certificate').click();
    await form.getByLabel('Their certificates').fill(slapd.authority);
    await form.getByText('Which entries, and what they are called').click();
    await form.getByLabel('make places that are not there').check();
    await form.getByRole('button', { name: 'Try it' }).click();
    await expect(form.getByRole('row', { name: 'Person 1 Direct dir1 West pier Evening' })).toBeVisible();
    await form.getByRole('button', { name: 'Keep it' }).click();
    const feed = page.getByRole('listitem', { name: 'Staff' });
    await feed.getByRole('button', { name: 'Read Staff now' }).click();
    await expect(feed.getByText(/30 people and 2 groups/)).toBeVisible({ timeout: 20_000 });
    // through the inner group, directly, and not at all
    expect([await sees(page, 'dir1'), await sees(page, 'dir2'), await sees(page, 'dir4')]).toEqual([
      ['Pier desktop'],
      ['Pier desktop'],
      [],
    ]);
    await page.goto(new URL('/estate/person/dir1', page.url()).href);
    await expect(page.getByRole('heading', { name: 'Where it is from' })).toBeVisible();
    await expect(page.getByText('Directory that is read “Staff”').first()).toBeVisible();

    await load(all.slice(0, 20));
    await page.goto(new URL('/estate/sources', page.url()).href);
    await feed.getByRole('button', { name: 'Read Staff now' }).click();
    await expect(feed.getByText(/10 of 30 people would leave, 33 %/)).toBeVisible({ timeout: 20_000 });
    expect((await ask<{ status?: number }>(page, 'estate/person/dir29')).status).toBeUndefined();
    await feed.getByRole('button', { name: 'Let the 10 leave' }).click();
    await expect(feed.getByText(/20 people and 2 groups.*10 left/)).toBeVisible({ timeout: 20_000 });
    expect((await ask<{ status?: number }>(page, 'estate/person/dir29')).status).toBe(404);

    // another administrator sets how often while this one types, and the page is loaded anew: it is told at its field, nothing is lost
    await feed.getByRole('button', { name: 'Settings of Staff' }).click();
    const limit = form.getByLabel(/Stops where more leave/);
    await limit.fill('44');
    await page.waitForTimeout(400);
    const [kept] = await ask<{ id: string; settings: object }[]>(page, 'intake/ldap');
    const at = new URL(`/api/intake/ldap/${kept!.id}`, page.url()).href;
    const other = { data: { settings: { ...kept!.settings, everyMinutes: 60 } }, headers: { 'x-underpass': '1' } };
    expect((await page.request.put(at, other)).status()).toBe(200);
    await page.reload();
    await expect(limit).toHaveValue('44');
    await form.getByRole('button', { name: 'Keep it' }).click();
    await expect(form.getByText('was changed meanwhile: 60 now')).toBeVisible();
    expect((await ask<{ settings: object }[]>(page, 'intake/ldap'))[0]!.settings).toMatchObject({ everyMinutes: 60, limitPercent: 10 });
    await form.getByLabel('Is read').selectOption('60');
    await form.getByRole('button', { name: 'Keep it' }).click();
    await expect(form).toHaveCount(0);
    expect((await ask<{ settings: object }[]>(page, 'intake/ldap'))[0]!.settings).toMatchObject({ everyMinutes: 60, limitPercent: 44 });
  } finally {
    await slapd.stop();
  }
});

test('a directory that sends: added with its token, people and groups come by a program that knows the standard', async ({
  page,
  baseURL,
}) => {
  await signInFresh(page, baseURL, '/estate/sources');
  await page.getByText('Add a directory that sends').click();
  await page.locator('#scim-name').fill('Provider');
  await page.getByRole('button', { name: 'Add it and make its token' }).click();
  const address = (await page.getByLabel('Address of the service', { exact: true }).inputValue()).replace(
    /^http:\/\/[^/]+/,
    freshAt(baseURL),
  );
  const token = await page.getByLabel('Token; it is shown this once', { exact: true }).inputValue();
  await page.getByRole('button', { name: 'I have it' }).click();
  expect(await page.content()).not.toContain(token);
  const send = async (path: string, method: string, body: unknown) => {
    const answer = await fetch(`${address}${path}`, {
      method,
      headers: { authorization: `Bearer ${token}`, 'content-type': 'application/scim+json' },
      body: JSON.stringify(body),
    });
    expect([path, answer.status < 300]).toEqual([path, true]);
    return (await answer.json()) as { id: string };
  };
  const user = new SCIMMY.Schemas.User(
    { schemas: ['urn:ietf:params:scim:schemas:core:2.0:User'], userName: 'sent.one', displayName: 'Sent One', active: true } as never,
    'in',
  );
  const { id } = await send('/Users', 'POST', user);
  const read = new SCIMMY.Schemas.User(
    (await send('/Users', 'POST', { ...user, userName: 'sent.two', displayName: 'Sent Two' })) as never,
    'out',
  );
  expect(read.userName).toBe('sent.two');
  const group = await send('/Groups', 'POST', {
    schemas: ['urn:ietf:params:scim:schemas:core:2.0:Group'],
    displayName: 'Sent group',
    members: [],
  });
  const patch = new SCIMMY.Messages.PatchOp({
    schemas: ['urn:ietf:params:scim:api:messages:2.0:PatchOp'],
    Operations: [{ op: 'add', path: 'members', value: [{ value: id }] }],
  } as never);
  await send(`/Groups/${group.id}`, 'PATCH', patch);
  await page.reload();
  await expect(page.getByRole('listitem', { name: 'Provider' }).getByText(/2 people, 1 group;/)).toBeVisible();
  await page.goto(new URL('/estate/person/sent.one', page.url()).href);
  await expect(page.getByRole('heading', { level: 1 })).toContainText('Sent One');
  await expect(page.getByText('Sent group', { exact: true })).toBeVisible();
  await expect(page.getByText('Directory that sends “Provider”').first()).toBeVisible();
});

test('a device tells what it is by the script that is shown, and is taken in with its screens', async ({ page, baseURL }) => {
  await signInFresh(page, baseURL, '/estate/devices');
  await page.getByLabel('For which devices').fill('Counter computers');
  await page.getByRole('button', { name: 'Make a key' }).click();
  const shell = await page.getByLabel('In a shell', { exact: true }).inputValue();
  const folder = mkdtempSync(join(tmpdir(), 'counter-'));
  try {
    const [screen] = JSON.parse(readFileSync(new URL('../packages/core/src/screens/fixtures/edids.json', import.meta.url), 'utf8')) as {
      hex: string;
      preferred: number[];
    }[];
    // this machine has no screen to show: it stands beneath a folder, with the processor and memory that this machine has
    const put = (path: string, content: string | Uint8Array) => {
      mkdirSync(join(folder, path, '..'), { recursive: true });
      writeFileSync(join(folder, path), content);
    };
    for (const name of ['cpuinfo', 'meminfo']) put(`proc/${name}`, readFileSync(`/proc/${name}`));
    put('etc/hostname', 'counter-9\n');
    put('sys/class/drm/card0-HDMI-A-1/status', 'connected\n');
    put('sys/class/drm/card0-HDMI-A-1/edid', Buffer.from(screen?.hex ?? '', 'hex'));
    const { stdout } = await promisify(execFile)('/bin/sh', ['-c', `${shell.replace(/\| sh$/, '| sh -s --')} --root ${folder}`]);
    expect(stdout).toContain('it waits until somebody takes it in');
    await page.getByRole('button', { name: 'I have it' }).click();
    await page.reload();
    await expect(page.getByRole('heading', { name: '1 device waits to be taken in' })).toBeVisible();
    await page.getByRole('checkbox', { name: 'Choose counter-9' }).check();
    await page.getByRole('button', { name: 'Take in 1 device' }).click();
    await expect(page.getByRole('alert').filter({ hasText: 'Say where counter-9 is.' })).toBeVisible();
    const place = (await ask<{ rows: { name: string }[] }>(page, 'estate/location')).rows[0]?.name ?? '';
    await page.getByLabel('Place of counter-9').fill(place);
    await page.getByRole('option', { name: place }).first().click();
    await page.getByLabel('Name of counter-9').fill('Counter nine');
    await page.getByRole('button', { name: 'Take in 1 device' }).click();
    await expect(page.getByRole('heading', { name: 'No device waits' })).toBeVisible();
    await page.goto(new URL('/estate/endpoint/counter-nine', page.url()).href);
    await expect(page.getByRole('heading', { level: 1 })).toContainText('Counter nine');
    const { object } = await ask<{ object: { screens: { widthPx: number; heightPx: number }[]; reportedAt: string } }>(
      page,
      'estate/endpoint/counter-nine',
    );
    expect(object.screens.map(({ widthPx, heightPx }) => [widthPx, heightPx])).toEqual([screen?.preferred.slice(0, 2)]);
    await expect(page.getByText('The device itself').first()).toBeVisible();
  } finally {
    rmSync(folder, { recursive: true, force: true });
  }
});

test('the best next measurement is named, and doing it settles what it promised', async ({ page, browser, baseURL }) => {
  test.setTimeout(240_000);
  await signInFresh(page, baseURL, '/estate/gaps');
  // an estate of which everything is written down and nothing was measured
  const folder = new URL('../demo/saltmarsh/', import.meta.url);
  const files = Object.fromEntries(
    readdirSync(folder)
      .filter((name) => /\.(csv|ya?ml)$/.test(name) && name !== 'measurements.csv')
      .map((name) => [name, readFileSync(new URL(name, folder), 'utf8')]),
  );
  const { id } = await ask<{ id: string }>(page, 'estate/import', { files, apply: true });
  await expect
    .poll(async () => (await ask<{ state: string; message?: string }>(page, `estate/import/${id}`)).state, { timeout: 30_000 })
    .toBe('applied');
  interface Gaps {
    unknown: number;
    next: { action: string; crossings: number; checks: { endpoint: string; location: string }[] }[];
  }
  const gaps = () => ask<Gaps>(page, 'gaps');
  await expect.poll(async () => (await gaps()).unknown, { timeout: 30_000 }).toBeGreaterThan(100);
  const before = await gaps();
  // the best that one person does in one go
  const step = before.next.find(({ checks }) => checks.length === 1);
  expect(step?.crossings).toBeGreaterThan(5);
  await page.reload();
  await page.getByRole('button', { name: `Send: ${step?.action ?? ''}` }).click();
  await page.getByRole('button', { name: /^Make the link/ }).click();
  const shown = await page
    .getByRole('dialog')
    .getByText(/\/check\//)
    .first()
    .textContent();
  const url = new URL(shown?.trim() ?? '');
  // behind the line of known delay that stands before this server
  url.port = String(Number(url.port) + 1);
  await runCheck(browser, url.href);
  const promised = step?.crossings ?? 0;
  await expect
    .poll(async () => before.unknown - (await gaps()).unknown, { timeout: 30_000 })
    .toBeGreaterThanOrEqual(Math.floor(promised * 0.9));
  expect(before.unknown - (await gaps()).unknown).toBeLessThanOrEqual(Math.ceil(promised * 1.1));
});
