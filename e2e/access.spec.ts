import { AxeBuilder } from '@axe-core/playwright';
import { expect, test, type Page } from '@playwright/test';
import { execFileSync } from 'node:child_process';
import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { people, signIn } from './pages/app.js';
import { atPortal, listedOn, signInAs } from './pages/portal.js';

/** Chooses an object in a field that finds by name. */
async function pick(page: Page, label: string, text: string): Promise<void> {
  const field = page.getByRole('combobox', { name: label, exact: true });
  await field.fill(text);
  await page.getByRole('listbox', { name: label }).getByRole('option').first().click();
}
/** What an independent reader finds in a picture (zbarimg, Debian's zbar-tools). */
const readCodes = (file: string): string[] => execFileSync('zbarimg', ['-q', '--raw', file], { encoding: 'utf8' }).trim().split('\n');

/** What the core answers for a person, as the page's own session asks it. */
const answerFor = (page: Page, person: string): Promise<string[]> =>
  page.evaluate(
    async (id) =>
      ((await (await fetch(`/api/access/people/${id}`)).json()) as { after: { id: string }[] }).after.map((each) => each.id).sort(),
    person,
  );

test('several people sign in at the portal, and see there what the core says they see', async ({ page, browser }) => {
  await signIn(page);
  for (const [portal, person] of [
    ['main', 'P002'],
    ['main', 'P047'],
    ['guests', 'P382'],
    ['main', 'K01'],
  ] as const) {
    const visit = await atPortal(browser, portal, person);
    await expect(visit.getByRole('heading', { name: /Your resources/ })).toBeVisible();
    expect([person, await listedOn(visit)]).toEqual([person, await answerFor(page, person)]);
    await visit.context().close();
  }
  // two portals together make up what somebody with both sees
  const [main, sea] = [await atPortal(browser, 'main', 'P304'), await atPortal(browser, 'sea', 'P304')];
  expect([...(await listedOn(main)), ...(await listedOn(sea))].sort()).toEqual(await answerFor(page, 'P304'));
});

test('a person says they cannot see their application: why, mended by draft, and the portal shows it to them', async ({
  page,
  browser,
}) => {
  const visit = await atPortal(browser, 'main', 'P082');
  expect(await listedOn(visit)).toEqual(['documents']);
  await signIn(page, people.engineer, '/access');
  await expect(page.getByRole('heading', { level: 1 })).toContainText('given something that no portal shows');
  await page.getByLabel('Search people').fill('Joss Vance');
  await page.getByRole('row', { name: /Joss Vance/ }).click();
  await expect(page.getByText(/is given but hidden: the publication Safety handbook is attached to no portal/)).toBeVisible();
  await expect(page.getByText('reported').first()).toBeAttached();
  await page.getByRole('button', { name: /Safety handbook.*hidden/ }).click();
  await expect(page.getByRole('heading', { name: /Missing: publication attached to portal/ })).toBeVisible();
  await expect(
    page.getByText(/person Joss Vance, then group Trainers, then publication Safety handbook, then missing link/),
  ).toBeAttached();
  await expect(page.getByText(/Also opens to 5 other people/)).toBeVisible();
  await expect(page.getByText('6 people see another list at the next sign-in')).toBeVisible();
  await page.getByRole('button', { name: 'Apply this change' }).click();
  await expect(page.getByText(/^Applied: Attach the publication/)).toBeVisible();
  await expect(
    page.getByText(/person Joss Vance, then group Trainers, then publication Safety handbook, then portal Main portal/),
  ).toBeAttached();
  await visit.reload();
  expect(await listedOn(visit)).toEqual(['documents', 'safety']);
  // the page hears of it without being loaded again
  await expect(page.getByText(/was shown the list: Document viewer, Safety handbook/)).toBeVisible();
  await page.getByRole('button', { name: 'Take it back' }).click();
  await expect(page.getByText(/is given but hidden/)).toBeVisible();
});

test('a whole group is moved on paper first, with what happens to each', async ({ page }) => {
  await signIn(page, people.engineer, '/access');
  await page.getByRole('button', { name: 'Move people' }).click();
  await pick(page, 'Out of group', 'Publicity');
  await pick(page, 'Into group', 'Timetable');
  await expect(page.getByText('8 people see another list at the next sign-in')).toBeVisible();
  await expect(page.getByText('gains Timetable desktop; loses Poster studio').first()).toBeVisible();
  await expect(page.getByText('New crossings')).toBeVisible();
  // kept for later, found again, applied there, and taken back
  await page.getByRole('button', { name: 'Keep as draft' }).click();
  await expect(page.getByText(/^Kept as draft: Everybody in Publicity moved into Timetable planners/)).toBeVisible();
  await page.goto('/estate/changes');
  await page.getByRole('link', { name: 'Everybody in Publicity moved into Timetable planners' }).click();
  const draft = page.getByRole('dialog', { name: 'Everybody in Publicity moved into Timetable planners' });
  await expect(draft.getByText('8 people see another list at the next sign-in')).toBeVisible();
  await draft.getByRole('button', { name: 'Apply this change' }).click();
  await expect(page.getByText(/^Applied: Everybody in Publicity/)).toBeVisible();
  await page.getByRole('button', { name: 'Take it back' }).click();
  await page.goto('/estate/changes');
  await expect(page.getByText(/^Taken back|No draft is kept/).first()).toBeVisible();
  await expect(page.getByRole('link', { name: 'Everybody in Publicity moved into Timetable planners' })).toHaveCount(0);
});

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

test('a guest is not ready: which condition, mended on paper and applied, and gets in', async ({ page, browser }) => {
  const refused = await (await browser.newContext()).newPage();
  await refused.goto(`http://localhost:${Number(process.env.E2E_PORT ?? 4750) + 4}/guests/`);
  await signInAs(refused, 'P380');
  await expect(refused.getByText('You cannot be signed in here.')).toBeVisible();
  await signIn(page, people.engineer, '/access/guests');
  await expect(page.getByRole('heading', { level: 1 })).toContainText('past the end date');
  await page
    .getByRole('row', { name: /Odette Garrow/ })
    .getByRole('link', { name: 'Invitation accepted' })
    .click();
  await expect(page.getByText(/gets a refusal that says nothing. Not met: Invitation accepted/).first()).toBeVisible();
  await expect(page.getByRole('region', { name: 'Steps until it opens' }).getByText('not met')).toBeVisible();
  await page.getByRole('button', { name: /^Try: Send the invitation again/ }).click();
  await expect(page.getByText(/^Trying: /)).toBeVisible();
  await page.getByRole('button', { name: 'Record as done' }).click();
  await expect(page.getByText(/^(Applied|Recorded)/)).toBeVisible();
  const visit = await atPortal(browser, 'guests', 'P380');
  expect(await listedOn(visit)).toEqual(['guest-plans', 'guest-reports']);
  await page.goto('/access/guests');
  await expect(page.getByRole('row', { name: /Odette Garrow/ })).not.toContainText('Invitation accepted');
  // one that has ended is withdrawn in one action, and taken back
  await page.getByRole('button', { name: 'Withdraw all access of Yara Kemble' }).click();
  await page.getByRole('dialog').getByRole('button', { name: 'Withdraw all access of Yara Kemble' }).click();
  await expect(page.getByText(/is withdrawn from the next sign-in on/)).toBeVisible();
  await expect(page.getByRole('row', { name: /Yara Kemble/ })).not.toContainText('Plans for surveyors');
  await page.getByRole('button', { name: 'Take it back' }).click();
  await expect(page.getByRole('row', { name: /Yara Kemble/ })).toContainText('Plans for surveyors');
});

test('a set of one’s own is written with live evaluation, kept and removed', async ({ page }) => {
  await signIn(page, people.engineer, '/access/requirements');
  await page.getByRole('button', { name: 'Write a set of your own' }).click();
  const text = page.getByLabel(/^YAML/);
  await expect(page.getByText(/people are ready/).first()).toBeVisible();
  await text.fill((await text.inputValue()).replace('host.release', 'host.colour'));
  await expect(page.getByText(/Line 9: .*host has no field “colour”/)).toBeVisible();
  await expect(page.getByRole('button', { name: 'Keep this set' })).toBeDisabled();
  await text.fill(
    (await text.inputValue()).replace('host.colour', 'host.release').replace('11.0', '12.0').replace('My feature', 'Newest hosts'),
  );
  await expect(page.getByText(/people are not ready. Most often not met: the host is new enough/).first()).toBeVisible();
  await page.getByRole('button', { name: 'Keep this set' }).click();
  await expect(page.getByRole('button', { name: /Newest hosts own/ })).toBeVisible();
  await expect(page.getByText(/Bring the host to release/).first()).toBeVisible();
  await page.getByRole('button', { name: 'Show and edit as text' }).click();
  await page.getByRole('button', { name: 'Remove this set' }).click();
  await expect(page.getByText(/Newest hosts is removed/)).toBeVisible();
});

test('acceptance: a tester looks at the portal, another is written down, and the difference is marked', async ({ page, browser }) => {
  await signIn(page, people.engineer, '/access/acceptance');
  await page.getByRole('button', { name: 'Start a run' }).click();
  const run = page.getByRole('region', { name: 'Run', exact: true });
  await expect(run.getByText(/0 of \d+ have looked/)).toBeVisible();
  // one of the testers finds everything at the main portal: a kiosk
  const kiosks = await run.getByRole('listitem').filter({ hasText: 'kiosk' }).getByRole('link').first().getAttribute('href');
  const kiosk = await atPortal(browser, 'main', kiosks?.split('/').at(-1) ?? '');
  await expect(kiosk.getByRole('heading', { name: /Your resources/ })).toBeVisible();
  await expect(run.getByRole('listitem').filter({ hasText: 'kiosk' })).toContainText('saw exactly that');
  const tester = run.getByRole('listitem').filter({ hasText: 'Petra Elstow' });
  await tester.getByRole('button', { name: /Write down/ }).click();
  await tester.getByLabel('Training desktop').uncheck();
  await tester.getByRole('button', { name: /Keep what/ }).click();
  await expect(tester).toContainText('did not see Training desktop');
  // what should not be there is written down too
  await tester.getByRole('button', { name: /Write down again/ }).click();
  await tester.getByRole('combobox', { name: /What else/ }).fill('Payr');
  await page.getByRole('option', { name: /Payroll/ }).click();
  await tester.getByRole('button', { name: /Keep what/ }).click();
  await expect(tester).toContainText('did not see Training desktop; also saw Payroll');
  const signOff = page.getByRole('button', { name: 'Sign off the run' });
  await expect(signOff).toBeDisabled();
  for (let left = await run.getByRole('button', { name: /^Write down what/ }).count(); left > 0; left--) {
    await run
      .getByRole('button', { name: /^Write down what/ })
      .first()
      .click();
    await run.getByRole('button', { name: /Keep what/ }).click();
    await expect(run.getByRole('button', { name: /^Write down what/ })).toHaveCount(left - 1);
  }
  await signOff.click();
  await expect(run.getByText(/signed off by Ines Farrow/)).toBeVisible();
  await expect(run.getByRole('button')).toHaveCount(0);
  // the next run begins anew; the signed one stays to be read
  await page.getByRole('button', { name: 'Start a run' }).click();
  await expect(run.getByText(/0 of \d+ have looked/)).toBeVisible();
  const all = page.getByRole('region', { name: 'All runs' }).getByRole('listitem').filter({ hasText: 'signed off by Ines Farrow' });
  await expect(all).toContainText('1 saw something else');
  await all.getByRole('link').click();
  await expect(run.getByRole('listitem').filter({ hasText: 'Petra Elstow' })).toContainText('also saw Payroll');
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

test('the screens of the stage have names, contrast and order for everybody', async ({ page }) => {
  await signIn(page);
  for (const path of [
    '/access',
    '/access/people/P081?why=safety',
    '/access/publications?resource=counter',
    '/access/links',
    '/access/guests',
    '/access/acceptance',
    '/access/requirements',
    '/access/sign-on',
    '/crossings/P005~HO-005~timetable?q=usable',
    '/crossings/P380~OS-002~guest-plans?q=open',
  ]) {
    // the colours are the same tokens everywhere: dark is looked at where every kind of drawing stands
    for (const theme of /people|sign-on|usable/.test(path) ? ['light', 'dark'] : ['light']) {
      await page.goto(path);
      await page.evaluate((name) => (document.documentElement.dataset.theme = name), theme);
      await expect(page.getByRole('heading', { level: 1 })).toBeVisible();
      await expect(page.getByText('·····')).toHaveCount(0);
      const { violations } = await new AxeBuilder({ page }).withTags(['wcag2a', 'wcag2aa', 'wcag21aa']).analyze();
      expect([path, theme, violations.map(({ id, nodes }) => `${id}: ${nodes[0]?.html.slice(0, 160)}`)]).toEqual([path, theme, []]);
    }
  }
});
