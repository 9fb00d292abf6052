import { expect, test } from '@playwright/test';
import { execFileSync } from 'node:child_process';
import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { people, pick, signIn } from './pages/app.js';
import { atPortal, signInAs } from './pages/portal.js';

/** What an independent reader finds in a picture (zbarimg, Debian's zbar-tools). */
const readCodes = (file: string): string[] => execFileSync('zbarimg', ['-q', '--raw', file], { encoding: 'utf8' }).trim().split('\n');

test('a link for the kiosk: made, printed, read back by an independent reader, opened, and it lands in the right session', async ({
  page,
  browser,
}) => {
  await signIn(page, people.engineer, '/access/links');
  await page.getByRole('button', { name: 'Make links' }).click();
  await pick(page, 'Resource', 'workshop');
  await pick(page, 'Which endpoint', 'GUL-K01');
  await page.getByLabel('Caption').fill('Orders for the shop floor');
  await expect(page.getByText('saves nothing: everybody on GUL-K01 starts from a link or straight away already.')).toBeVisible();
  await page.getByRole('button', { name: 'Make the link' }).click();
  await expect(page.getByRole('heading', { name: 'Print the code' })).toBeVisible();
  const folder = mkdtempSync(join(tmpdir(), 'codes-'));
  const save = async (name: string): Promise<string> => {
    const [download] = await Promise.all([page.waitForEvent('download'), page.getByRole('link', { name }).click()]);
    const file = join(folder, download.suggestedFilename());
    await download.saveAs(file);
    return file;
  };
  // the sheet as SVG, drawn by the browser; the sheet as PDF, drawn by pdftoppm: both are read to the same link
  const svg = readFileSync(await save('Save as SVG'), 'utf8');
  const said = svg.replace(/<[^>]+>/g, ' ').replace(/\s+/g, ' ');
  expect(said).toContain('Orders for the shop floor Gullsey repair dock, GUL-K01');
  const paper = await browser.newPage({ viewport: { width: 900, height: 1200 } });
  await paper.setContent(`<body style="margin:0">${svg}</body>`);
  await paper.screenshot({ path: join(folder, 'sheet.png') });
  const [url] = readCodes(join(folder, 'sheet.png')) as [string];
  execFileSync('pdftoppm', ['-r', '150', '-png', '-singlefile', await save('Save as PDF'), join(folder, 'printed')]);
  expect(readCodes(join(folder, 'printed.png'))).toEqual([url]);
  await page.getByRole('button', { name: 'Close' }).click();
  await expect(page.getByRole('link', { name: url.replace(/^https?:\/\//, '') })).toBeVisible();
  // nothing secret in it: a name of ten letters, no question mark
  expect(url).toMatch(/\/go\/[A-Za-z0-9]{10}$/);
  const kiosk = await (await browser.newContext()).newPage();
  await kiosk.goto(url);
  await kiosk.getByRole('button', { name: 'Let this browser be GUL-K01' }).click();
  await expect(kiosk.getByRole('heading', { name: 'Workshop orders' })).toBeVisible();
  await expect(kiosk.getByText(/A new session for Gullsey workshop kiosk on the host/)).toBeVisible();
  await page.reload();
  await expect(page.getByRole('row', { name: /Orders for the shop floor.*GUL-K01.*\b1\b/ })).toBeVisible();
  // somebody else lands at the sign-in first, and then in the same place
  const other = await (await browser.newContext()).newPage();
  await other.goto(url);
  await signInAs(other, 'P060');
  await expect(other.getByText(/This resource is not in your list|A new session/)).toBeVisible();
  await page
    .getByRole('row', { name: /Orders for the shop floor/ })
    .getByRole('button', { name: 'Take back' })
    .click();
  await expect(page.getByText(/no longer opens/)).toBeVisible();
  expect((await kiosk.goto(url))?.status()).toBe(410);
  await expect(kiosk.getByText('This link was taken back')).toBeVisible();
});

test('a link is tried on paper before it is sent', async ({ page }) => {
  await signIn(page, people.reader, '/access/links');
  await page.getByRole('button', { name: 'Try a link on paper' }).click();
  await pick(page, 'Resource', 'timetable');
  await pick(page, 'Person', 'Quill Saltram');
  await page.getByLabel('Browser', { exact: true }).selectOption('firefox');
  await expect(page.getByText(/Opens in/)).toBeVisible();
  await expect(
    page.getByRole('region', { name: 'Lost in the browser' }).getByRole('listitem').filter({ hasText: 'second screen' }),
  ).toContainText('not at all');
  await expect(page.getByText(/^Saves \d+\.\d s an opening$/)).toBeVisible();
  await page.getByLabel('Version').fill('not a version');
  await expect(page.getByText(/The version must be a number such as \d/)).toBeVisible();
});

test('sessions left behind: told on the crossing, asked about at the portal, and taken up by a policy of one’s own', async ({
  page,
  browser,
}) => {
  await signIn(page, people.engineer, '/crossings?person=P005');
  await page.getByRole('row', { name: /Document viewer/ }).click();
  await page
    .getByRole('tab', { name: /usable/ })
    .first()
    .click();
  const panel = page.getByRole('region', { name: 'Sign-on' });
  await expect(panel.getByRole('heading', { name: '2 sessions left elsewhere' })).toBeVisible();
  await expect(panel.getByRole('row', { name: /^most recent/ })).toContainText('Timetable desktop');
  await expect(panel.getByRole('row', { name: /^all not offered/ })).toContainText('2 sessions open on top of each other');
  await expect(panel.getByText('in force: ask')).toBeVisible();
  const openAt = async (resource: string) => {
    const visit = await atPortal(browser, 'main', 'P005');
    await visit.getByRole('button', { name: resource }).click();
    return visit;
  };
  const asked = await openAt('Document viewer');
  await expect(asked.getByRole('heading', { name: 'You have sessions elsewhere' })).toBeVisible();
  await expect(asked.getByRole('listitem')).toHaveCount(2);
  await asked.getByRole('button', { name: 'Take up Document viewer' }).click();
  await expect(asked.getByRole('heading', { name: 'Document viewer' })).toBeVisible();
  // a layer of one’s own: both the crossing and the portal go by it
  const control = page.getByRole('radiogroup', { name: 'Left behind' });
  await control.getByRole('radio', { name: 'latest' }).click();
  await expect(panel.getByText('in force: most recent')).toBeVisible();
  await page.getByRole('combobox', { name: /^For/ }).selectOption({ label: 'Kezia Marsden (person)' });
  await page.getByRole('button', { name: 'Apply', exact: true }).click();
  await expect(page.getByText(/^Applied: .+ most recent at P005/)).toBeVisible();
  const taken = await openAt('Document viewer');
  // the latest of both was the timetable’s, although the documents were wanted
  await expect(taken.getByRole('heading', { name: 'Timetable desktop' })).toBeVisible();
});

test('a sign-in recorded by the browser is read into steps in a worker, kept, and replaces what was assumed', async ({ page, browser }) => {
  const folder = mkdtempSync(join(tmpdir(), 'har-'));
  const file = join(folder, 'sign-in.har');
  const context = await browser.newContext({ recordHar: { path: file } });
  const visit = await context.newPage();
  await visit.goto(`http://localhost:${Number(process.env.E2E_PORT ?? 4750) + 4}/main/`);
  await signInAs(visit, 'P003');
  await visit.getByRole('button', { name: 'Timetable desktop' }).click();
  await expect(visit.getByAltText(/Stand-in picture/)).toBeVisible();
  await context.close();
  await signIn(page, people.engineer, '/access/sign-on');
  await expect(page.getByText(/read in this browser and never sent/)).toBeVisible();
  const sent: string[] = [];
  page.on('request', (request) => sent.push(request.postData() ?? ''));
  await page.getByLabel(/Drop a HAR file here/).setInputFiles(file);
  await expect(page.getByRole('heading', { name: /is the slowest step/ })).toBeVisible();
  await expect(
    page.getByRole('table', { name: 'Steps of the recorded sign-in' }).getByRole('cell', { name: /list of resources/ }),
  ).toBeAttached();
  await pick(page, 'Location', 'Head office');
  await pick(page, 'Endpoint', 'HO-003');
  await page.getByRole('button', { name: 'Keep as measured' }).click();
  await expect(page.getByText(/measured steps replace what was assumed/)).toBeVisible();
  expect(sent.join()).not.toMatch(/anything|portal_visit|cookie/i);
  await page.goto('/crossings/P003~HO-003~timetable?q=usable');
  await expect(
    page.getByRole('table', { name: 'Steps until it is usable' }).getByRole('row', { name: /list of resources.*measured/ }),
  ).toBeAttached();
  // a file that is no recording says so, and nothing is lost
  writeFileSync(join(folder, 'broken.har'), '{"log": {"entries": [');
  await page.goto('/access/sign-on');
  await page.getByLabel(/Drop a HAR file here/).setInputFiles(join(folder, 'broken.har'));
  await expect(page.getByText(/broken.har is not JSON/)).toBeVisible();
});

test('rules that somebody else keeps while they are typed over: both are there, and which goes on is said', async ({ page }) => {
  await signIn(page, people.engineer, '/access/sign-on');
  await page.getByRole('button', { name: /rules that give requests to steps/ }).click();
  const path = page.getByRole('textbox', { name: /Path/ }).first();
  const shipped = await path.inputValue();
  await path.fill('/mine*');
  const keep = (change: 'fewer' | 'shipped') =>
    page.evaluate(async (what) => {
      const headers = { 'x-underpass': '1', 'content-type': 'application/json' };
      const now = (await (await fetch('/api/signon/rules', { headers })).json()) as { rules: object[]; version: number };
      const body = JSON.stringify({ rules: what === 'fewer' ? now.rules.slice(0, -1) : null, seen: now.version });
      await fetch('/api/signon/rules', { method: 'PUT', headers, body });
      return now.rules.length;
    }, change);
  await keep('fewer');
  const meanwhile = page.getByRole('region', { name: 'Kept by somebody else' });
  await expect(meanwhile).toContainText('These rules were kept by somebody else meanwhile. Nothing of yours is lost.');
  await expect(page.getByRole('button', { name: 'Keep these rules' })).toBeDisabled();
  await expect(path).toHaveValue('/mine*');
  // what is typed is there after a reload, and theirs still told
  await expect.poll(() => page.evaluate(() => JSON.stringify(sessionStorage).includes('/mine'))).toBe(true);
  await page.reload();
  await expect(path).toHaveValue('/mine*');
  await meanwhile.getByRole('button', { name: 'Go on with mine, in place of theirs' }).click();
  await page.getByRole('button', { name: 'Keep these rules' }).click();
  await expect(page.getByText('The rules are kept for everybody.')).toBeVisible();
  await expect(meanwhile).toHaveCount(0);
  await expect(path).toHaveValue('/mine*');
  // what nobody types over follows
  await keep('shipped');
  await expect(path).toHaveValue(shipped);
});
