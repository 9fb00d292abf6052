import { expect, test, type Browser, type Page } from '@playwright/test';
import { Secret, TOTP } from 'otpauth';
import { people, signInByHand } from './pages/app.js';
import { faultsOf, watched } from './pages/faults.js';

const password = 'otter lantern gravel tide';
const code = (secret: string, later = 0) => new TOTP({ secret: Secret.fromBase32(secret) }).generate({ timestamp: Date.now() + later });

/** Somebody of their own for a test, made by the administrator through the pages. */
async function somebody(browser: Browser, address: string, name: string): Promise<Page> {
  const admin = await (await watched(await browser.newContext())).newPage();
  await signInByHand(admin, 'admin@saltmarsh.example', '/sign-ins');
  await admin.locator('#user-email').fill(address);
  await admin.locator('#user-name').fill(name);
  await admin.locator('#user-password').fill(password);
  await admin.getByRole('button', { name: 'Add sign-in' }).click();
  await expect(admin.getByText(address)).toBeVisible();
  await admin.context().close();
  const page = await (await watched(await browser.newContext())).newPage();
  await enter(page, address, password);
  await expect(page.getByRole('link', { name: 'Underpass' })).toBeVisible();
  return page;
}
async function enter(page: Page, address: string, secret: string): Promise<void> {
  await page.goto('/account');
  await page.getByLabel('Address').fill(address);
  await page.getByLabel('Password', { exact: true }).fill(secret);
  await page.getByRole('button', { name: 'Sign in', exact: true }).click();
}
const clean = async (page: Page) => expect(await faultsOf(page)).toEqual([]);

test('two who edit one place see it, choose, and no word of either is lost', async ({ browser }) => {
  const [ines, selma] = [
    await (await watched(await browser.newContext())).newPage(),
    await (await watched(await browser.newContext())).newPage(),
  ];
  await signInByHand(ines, people.engineer, '/estate/location/oldhithe');
  await signInByHand(selma, 'admin@saltmarsh.example', '/estate/location/oldhithe');
  const name = (page: Page) => page.getByLabel('Name needed');
  const save = (page: Page) => page.getByRole('button', { name: 'Save location' });
  const first = await name(ines).inputValue();
  await name(ines).fill('Oldhithe hall, by Ines');
  await ines.getByLabel('Shared by').fill('17');
  await name(selma).fill('Oldhithe hall, by Selma');
  await selma.getByLabel('Area').fill('West');
  await save(selma).click();
  await expect(selma.getByText('Saved location oldhithe')).toBeVisible();
  // what is typed stays although the page hears of the other's change
  await expect(name(ines)).toHaveValue('Oldhithe hall, by Ines');
  await save(ines).click();
  const conflict = ines.getByRole('alert');
  await expect(conflict).toContainText('Selma Thorne changed this too');
  await expect(conflict).toContainText('Taken over from Selma Thorne: Area West');
  await expect(save(ines)).toBeDisabled();
  await clean(ines);
  await expect(ines.getByLabel('Shared by')).toHaveValue('17');
  await ines.getByRole('radio', { name: 'Name: yours, Oldhithe hall, by Ines' }).press('Space');
  await save(ines).click();
  await expect(ines.getByText('Saved location oldhithe')).toBeVisible();
  await expect(name(selma)).toHaveValue('Oldhithe hall, by Ines');
  await expect(selma.getByLabel('Shared by')).toHaveValue('17');
  await expect(selma.getByLabel('Area')).toHaveValue('West');
  // removed meanwhile: what is typed is there still
  await name(selma).fill(first);
  await save(selma).click();
  await expect(selma.getByText('Saved location oldhithe')).toBeVisible();
  await Promise.all([ines.context().close(), selma.context().close()]);
});

test('a password is changed by its owner; everywhere else the page asks again and keeps what is typed', async ({ browser }) => {
  const page = await somebody(browser, 'change@saltmarsh.example', 'Perrin Vole');
  const other = await (await watched(await browser.newContext())).newPage();
  await enter(other, 'change@saltmarsh.example', password);
  await expect(other.getByRole('link', { name: 'Underpass' })).toBeVisible();
  await other.goto('/estate/location/tolmouth');
  await other.getByLabel('Area').fill('typed and not saved');
  await page.goto('/account');
  await expect(page.getByRole('button', { name: /End the session/ })).toHaveCount(1);
  await page.getByLabel('Now').fill('not this one');
  await page.getByLabel('New').fill('pebble ferry sunrise quilt');
  await page.getByRole('button', { name: 'Change the password' }).click();
  await expect(page.getByText('This is not your password.')).toBeVisible();
  await page.getByLabel('Now').fill(password);
  await page.getByLabel('New').fill('password1234');
  await page.getByRole('button', { name: 'Change the password' }).click();
  await expect(page.getByText(/easy to guess/)).toBeVisible();
  await page.getByLabel('New').fill('pebble ferry sunrise quilt');
  await page.getByRole('button', { name: 'Change the password' }).click();
  await expect(page.getByText('Everywhere else you are signed out.').last()).toBeVisible();
  await expect(page.getByRole('button', { name: /End the session/ })).toHaveCount(0);
  await clean(page);
  const again = other.getByRole('dialog', { name: 'Sign in again' });
  await expect(again).toBeVisible({ timeout: 15_000 });
  await again.getByLabel('Password').fill('pebble ferry sunrise quilt');
  await again.getByRole('button', { name: 'Sign in' }).click();
  await expect(again).toBeHidden();
  await expect(other.getByLabel('Area')).toHaveValue('typed and not saved');
  await Promise.all([page.context().close(), other.context().close()]);
});

test('a second factor is set up, asked for, and a spare code stands in for it once', async ({ browser }) => {
  const page = await somebody(browser, 'factor@saltmarsh.example', 'Wren Halyard');
  await page.goto('/account');
  await page.getByRole('button', { name: 'Set up a second factor' }).click();
  await expect(page.getByRole('img', { name: 'Code to scan with an authenticator' })).toBeVisible();
  const secret = (await page.locator('p.mono').first().innerText()).replaceAll(' ', '');
  await page.getByLabel('Code it shows now').fill('000000');
  await page.getByRole('button', { name: 'Use it from now on' }).click();
  await expect(page.getByText(/does not fit/i)).toBeVisible();
  await page.getByLabel('Code it shows now').fill(code(secret));
  await page.getByRole('button', { name: 'Use it from now on' }).click();
  const spare = page.getByRole('status').filter({ hasText: 'spare codes' }).getByRole('listitem');
  await expect(spare).toHaveCount(10);
  const first = await spare.first().innerText();
  await clean(page);
  const next = await (await watched(await browser.newContext())).newPage();
  await enter(next, 'factor@saltmarsh.example', password);
  await next.getByLabel('Code').fill('123456');
  await next.getByRole('button', { name: 'Sign in', exact: true }).click();
  await expect(next.getByText(/The code is not right/)).toBeVisible();
  await expect(next.getByLabel('Password')).toHaveValue(password);
  await next.getByLabel('Code').fill(code(secret, 30_000));
  await next.getByRole('button', { name: 'Sign in', exact: true }).click();
  await expect(next.getByRole('heading', { name: 'Wren Halyard' })).toBeVisible();
  await next.context().clearCookies();
  await enter(next, 'factor@saltmarsh.example', password);
  await next.getByLabel('Code').fill(first);
  await next.getByRole('button', { name: 'Sign in', exact: true }).click();
  await expect(next.getByText('9 of 10 spare codes are left.')).toBeVisible();
  await Promise.all([page.context().close(), next.context().close()]);
});

test('through the organisation’s provider: in with the role of the claim, out with the code of nobody', async ({ browser }) => {
  const page = await (await watched(await browser.newContext())).newPage();
  await page.goto('/board');
  await page.getByRole('link', { name: 'Sign in with Saltmarsh sign-in' }).click();
  await page.getByRole('link', { name: 'Go on as Odo Thrift' }).click();
  await expect(page.getByText(/gives you no role here/)).toBeVisible();
  await page.context().clearCookies();
  await page.getByRole('link', { name: 'Sign in with Saltmarsh sign-in' }).click();
  await page.getByRole('link', { name: 'Go on as Mara Quill' }).click();
  await expect(page.getByRole('button', { name: /Mara Quill/ })).toContainText('access engineer');
  await page.goto('/account');
  await expect(page.getByText('You sign in through your organisation; the password is changed there.')).toBeVisible();
  await page.getByRole('button', { name: /Mara Quill/ }).click();
  await page.getByRole('menuitem', { name: 'Sign out' }).click();
  await expect(page).toHaveURL(/\/session\/end/);
  await page.goto('/board');
  await expect(page.getByRole('heading', { name: 'Sign in' })).toBeVisible();
  await page.context().close();
});

test('rights and rules are changed by an administrator, and the log of the doors tells of it', async ({ browser }) => {
  const page = await (await watched(await browser.newContext())).newPage();
  await signInByHand(page, 'admin@saltmarsh.example', '/sign-ins');
  await page.getByLabel('Role of Wyn Ashby').selectOption('engineer');
  await page.getByRole('link', { name: 'Log of the doors' }).click();
  await expect(
    page.getByRole('row', { name: /Role changed admin@saltmarsh.example .* reader@saltmarsh.example from reader to engineer/ }),
  ).toBeVisible();
  await clean(page);
  await page.goto('/sign-ins');
  await page.getByLabel('Role of Wyn Ashby').selectOption('reader');
  await page.getByLabel('End a session after').fill('2');
  await page.getByRole('button', { name: 'Put these rules in force' }).click();
  await expect(page.getByText('must be 5 to 720 minutes')).toBeVisible();
  await page.getByLabel('End a session after').fill('soon');
  await page.getByRole('button', { name: 'Put these rules in force' }).click();
  await expect(page.getByText('must be 5 to 720 minutes')).toBeVisible();
  await page.getByLabel('End a session after').fill('45');
  // another administrator changes another rule meanwhile: it is told where it stands, and neither is lost
  const rules = page.request;
  const was = (await (await rules.get('/api/users/rules')).json()) as { keepLogDays: number };
  const days = String(was.keepLogDays + 1);
  const headers = { 'x-underpass': '1' };
  expect((await rules.put('/api/users/rules', { data: { ...was, keepLogDays: Number(days) }, headers })).status()).toBe(200);
  await page.getByRole('button', { name: 'Put these rules in force' }).click();
  await expect(page.getByText(`was changed meanwhile: ${days} now`)).toBeVisible();
  await expect(page.getByLabel('Keep the log of the doors')).toHaveValue(days);
  await expect(page.getByLabel('End a session after')).toHaveValue('45');
  await clean(page);
  await page.getByRole('button', { name: 'Put these rules in force' }).click();
  await expect(page.getByText('The rules are in force from now on.')).toBeVisible();
  expect(await (await rules.get('/api/users/rules')).json()).toEqual({ ...was, keepLogDays: Number(days), idleMinutes: 45 });
  await clean(page);
  const exported = page.waitForEvent('download');
  await page.goto('/sign-ins/log');
  await page.getByRole('button', { name: 'Export as log lines' }).click();
  expect((await exported).suggestedFilename()).toBe('security.log');
  await page.context().close();
});

test('while the database is away every page says so, keeps what is typed, and goes on when it is back', async ({ page }) => {
  await signInByHand(page, people.engineer, '/estate/location/tolmouth');
  await page.getByLabel('Area').fill('typed meanwhile');
  const away = JSON.stringify({
    type: 'about:blank',
    title: 'The database does not answer',
    status: 503,
    detail: 'The database of Underpass does not answer. What you typed is kept on the page.',
  });
  await page.route('**/api/estate/**', (route) =>
    route.fulfill({ status: 503, contentType: 'application/problem+json', headers: { 'retry-after': '3' }, body: away }),
  );
  await page.getByRole('button', { name: 'Save location' }).click();
  await expect(page.getByRole('status').filter({ hasText: 'does not answer' })).toBeVisible();
  await expect(page.getByText(/^Nothing was saved\./)).toBeVisible();
  await expect(page.getByLabel('Area')).toHaveValue('typed meanwhile');
  await page.unroute('**/api/estate/**');
  await page.getByRole('button', { name: 'Save location' }).click();
  await expect(page.getByText('Saved location tolmouth')).toBeVisible();
  await expect(page.getByRole('status').filter({ hasText: 'does not answer' })).toBeHidden();
  await page.getByRole('button', { name: 'Take it back' }).click();
});

test('an address that names no kind offers the nearest', async ({ page }) => {
  await signInByHand(page, people.engineer, '/estate/settings');
  await expect(page.getByText('There is no kind “settings”')).toBeVisible();
  await page.getByRole('main').getByText('Did you mean').getByRole('link', { name: 'Settings' }).click();
  await expect(page).toHaveURL(/\/estate\/setting$/);
});
