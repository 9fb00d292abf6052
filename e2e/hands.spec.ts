import { expect, test, type Locator, type Page } from '@playwright/test';
import { readFileSync } from 'node:fs';
import { crossingPath, people, pick, signIn } from './pages/app.js';

const limited = crossingPath('P136', 'WEX-TC-020', 'timetable');

/** Presses Tab until something has the focus. */
async function tabTo(page: Page, target: ReturnType<Page['locator']>, most = 80): Promise<void> {
  for (let i = 0; i < most && !(await target.evaluate((element) => element === document.activeElement)); i++)
    await page.keyboard.press('Tab');
  await expect(target).toBeFocused();
}

test('forty endpoints are chosen by keyboard, edited as one change with its impact seen first, and taken back', async ({ page }) => {
  await signIn(page, people.engineer, '/estate/endpoint?sort=id&search=WEX-TC');
  await expect(page.getByRole('row')).not.toHaveCount(0);
  await tabTo(page, page.getByRole('checkbox', { name: 'Choose WEX-TC-001' }));
  await page.keyboard.press('Space');
  for (let i = 0; i < 39; i++) await page.keyboard.press('Shift+ArrowDown');
  await expect(page.getByText('40 chosen')).toBeVisible();
  const edit = page.getByRole('button', { name: 'Edit a field' });
  await edit.focus();
  await page.keyboard.press('Enter');
  await page.getByLabel('Field', { exact: true }).selectOption('clientVersion');
  // nothing typed is no wish to take it away from all of them
  await page.getByLabel('Client version').press('Enter');
  await page.waitForTimeout(600);
  await expect(page.getByRole('button', { name: 'Apply to 40 endpoints' })).toBeDisabled();
  await page.getByLabel('Client version').fill('3.0');
  const dialog = page.getByRole('dialog');
  await expect(dialog).toContainText(/It touches \d+ crossings/);
  await expect(dialog).toContainText(/get worse/);
  // what somebody else writes to one of them meanwhile is not overwritten unseen: it is looked at once more
  const change = { patches: [{ do: 'change', kind: 'endpoint', id: 'WEX-TC-007', set: { cores: 2 } }], hypotheses: [] };
  const meanwhile = await page.request.post('/api/changes', { headers: { 'x-underpass': '1' }, data: { change, summary: 'Meanwhile' } });
  expect(meanwhile.status()).toBe(201);
  // the list behind is read anew meanwhile, and what was looked at stays looked at
  await page.waitForTimeout(600);
  await expect(page.getByRole('button', { name: 'Apply to 40 endpoints' })).toBeEnabled();
  const anew = page.waitForResponse('**/api/impact');
  await page.keyboard.press('Enter');
  await expect(dialog.getByRole('alert')).toContainText('Endpoint WEX-TC-007 was changed since you saw it');
  await anew;
  await expect(dialog).toContainText(/get worse/);
  await page.keyboard.press('Enter');
  const told = page.getByRole('status').filter({ hasText: 'Changed: Client version of 40 endpoints.' });
  // and for whom, once the crossings are evaluated
  await expect(told).toContainText(/endpoints\. For \d+ people: \d+ crossings worse\./);
  await expect(page.getByRole('row', { name: /WEX-TC-040/ })).toContainText('3.0');
  await page.getByRole('button', { name: 'Take it back' }).press('Enter');
  await expect(page.getByText('Taken back: Client version of 40 endpoints.')).toBeVisible();
  await expect(page.getByRole('row', { name: /WEX-TC-040/ })).not.toContainText('3.0 ');
});

test('a location is made with its line, its id out of its name, and chosen by name in three forms', async ({ page }) => {
  await signIn(page, people.engineer, '/estate/location/new');
  await page.getByLabel('Name needed').fill('Saltings landing stage');
  await expect(page.getByLabel('Id needed')).toHaveValue('saltings-landing-stage');
  await page.getByLabel('Kind needed', { exact: true }).selectOption({ label: 'dock' });
  await page.getByLabel('Latitude, degrees north needed').fill('55.4');
  await page.getByLabel('Longitude, degrees east needed').fill('north');
  await page.getByLabel('Line kind needed').selectOption({ label: 'radio link' });
  await page.getByLabel('Down Mbit/s').fill('40');
  await page.getByRole('button', { name: 'Save location' }).click();
  await expect(page.getByText('“north” is not a number')).toBeVisible();
  await page.getByLabel('Longitude, degrees east needed').fill('3.1');
  await expect(page.getByText('It touches no crossing.')).toBeVisible();
  await page.getByRole('button', { name: 'Save location' }).click();
  await expect(page.getByText('Saved location saltings-landing-stage.')).toBeVisible();
  // an endpoint, a person, a setting
  await page.goto('/estate/endpoint/new');
  await page.getByRole('combobox', { name: 'Location needed' }).fill('saltings land');
  await page.getByRole('option', { name: /Saltings landing stage/ }).click();
  await expect(page.getByRole('combobox', { name: 'Location needed' })).toHaveValue('Saltings landing stage');
  await page.getByRole('button', { name: 'Add one to screens' }).click();
  await page.getByLabel('Screens 1, width px').fill('1920');
  await page.goto('/estate/person/new');
  await page.getByRole('combobox', { name: 'Location needed' }).fill('Saltings landing stage');
  await page.getByLabel('Name needed').fill('Wren Holm');
  await expect(page.getByRole('combobox', { name: 'Location needed' })).toHaveValue('Saltings landing stage');
  await page.getByLabel('Kind needed').selectOption('staff');
  // left without a choice what fits nothing stays, and says so
  await page.getByRole('combobox', { name: 'Add to groups' }).fill('nobody at all');
  await page.getByLabel('Name needed').click();
  await expect(page.getByText('No group is called “nobody at all”. Choose one from the list.')).toBeVisible();
  await page.getByRole('combobox', { name: 'Add to groups' }).fill('deck');
  await page.getByRole('listbox', { name: 'Choices' }).getByRole('option').first().click();
  await page.getByRole('button', { name: 'Save person' }).click();
  await expect(page.getByText('Saved person wren-holm.')).toBeVisible();
  await page.goto('/estate/measurements');
  await pick(page, 'Location', 'Saltings landing stage');
  // what is typed is there again after a reload, and is asked about before it is left
  await page.goto('/estate/person/wren-holm');
  await page.getByLabel('Name needed').fill('Wren Holm, pilot');
  await page.waitForTimeout(400);
  page.on('dialog', (dialog) => void dialog.accept());
  await page.reload();
  await expect(page.getByLabel('Name needed')).toHaveValue('Wren Holm, pilot');
  await page.getByRole('link', { name: 'Board' }).click();
  await expect(page.getByRole('dialog', { name: 'Leave what you typed?' })).toBeVisible();
  await page.getByRole('button', { name: 'Leave it' }).click();
  await expect(page).toHaveURL(/\/board$/);
  await page.goto('/estate/person/wren-holm');
  await expect(page.getByLabel('Name needed')).toHaveValue('Wren Holm');
});

test('a list is filtered, kept as a view, opened by its link in another browser, exported, and read again without a difference', async ({
  page,
  browser,
  context,
}) => {
  await context.grantPermissions(['clipboard-read', 'clipboard-write']);
  await signIn(page, people.engineer, '/estate/endpoint');
  await page.getByLabel('Search', { exact: true }).fill('oldhithe');
  await page.getByRole('columnheader').getByRole('button', { name: 'Version' }).click();
  await page.getByRole('button', { name: 'Columns' }).click();
  await page.getByRole('menuitemcheckbox', { name: 'Processor' }).click();
  await page.keyboard.press('Escape');
  await expect(page.getByRole('columnheader', { name: 'Processor' })).toBeVisible();
  const address = page.url();
  await page.getByRole('button', { name: 'Views' }).click();
  await page.getByLabel('Keep what is shown now as').fill('Old hithe by version');
  await page.getByRole('button', { name: 'Keep', exact: true }).click();
  await expect(page.getByText('Kept the view “Old hithe by version”.')).toBeVisible();
  await page.getByRole('button', { name: 'Views' }).click();
  await page.getByRole('button', { name: 'Copy the link of Old hithe by version' }).click();
  const link = await page.evaluate(() => navigator.clipboard.readText());
  await page.keyboard.press('Escape');
  const other = await (await browser.newContext()).newPage();
  await signIn(other, people.reader, new URL(link).pathname);
  await expect(other).toHaveURL(address);
  const names = (of: Page) => of.locator('[data-index] a[data-row]').allTextContents();
  await expect.poll(() => names(other)).toEqual(await names(page));
  const [download] = await Promise.all([page.waitForEvent('download'), page.getByRole('button', { name: 'Export this list' }).click()]);
  const text = readFileSync(await download.path(), 'utf8');
  expect(download.suggestedFilename()).toBe('endpoints.csv');
  expect(text.trim().split('\n').length - 1).toBe((await names(page)).length);
  await page.goto('/estate/import');
  await page
    .locator('input[type=file]')
    .first()
    .setInputFiles([{ name: 'endpoints.csv', mimeType: 'text/csv', buffer: Buffer.from(text) }]);
  await expect(page.getByText('Everything in it is in the estate already.')).toBeVisible();
  await other.context().close();
});

test('in the hand: from the Board to a crossing, a field check link, a remedy, applied and taken back, by touch', async ({ browser }) => {
  const context = await browser.newContext({ viewport: { width: 360, height: 740 }, hasTouch: true, isMobile: true });
  const page = await context.newPage();
  await signIn(page);
  const touch = async (name: string | RegExp, role: 'button' | 'link' = 'button') => page.getByRole(role, { name }).first().tap();
  await expect(page.getByRole('list', { name: 'Places, worst first' })).toBeVisible();
  await touch('Wexcombe ticket hall', 'link');
  await page.getByLabel('Search').fill('Greta Vance timetable');
  await touch('Greta Vance', 'link');
  await expect(page.getByRole('heading', { level: 1 })).toContainText('Greta Vance');
  await touch('Send a field check');
  await expect(page.getByRole('dialog')).toBeVisible();
  await touch('Make a link');
  await expect(page.getByLabel('Link; it is shown this once')).toHaveValue(/\/check\//);
  await touch('Close');
  await touch(/^Try the first remedy/);
  await expect(page.getByText(/^Trying: /)).toBeVisible();
  await touch('Apply it');
  await expect(page.getByText(/^Applied: /)).toBeVisible();
  await touch('Take it back');
  await expect(page.getByText(/^Taken back: /).first()).toBeVisible();
  await context.close();
});

test('the same at a desk by keyboard alone, everything found by its name', async ({ page }) => {
  await signIn(page);
  const find = async (words: string) => {
    await expect(page.getByRole('combobox', { name: /^Find/ })).toBeVisible();
    await page.keyboard.press('/');
    await page.keyboard.type(words);
    await expect(page.getByRole('option').first()).toBeVisible();
    await page.keyboard.press('Enter');
  };
  await find('crossings');
  await expect(page).toHaveURL(/\/crossings$/);
  // typed with a slip
  await find('gerta vance');
  const row = page.locator('[data-index] a[data-row]').first();
  await expect(page.getByRole('row', { name: /Greta Vance/ }).first()).toBeVisible();
  await tabTo(page, row);
  await page.keyboard.press('Enter');
  await expect(page.getByRole('heading', { level: 1 })).toContainText('Greta Vance');
  await page.goto(limited);
  await expect(page.getByRole('heading', { level: 1 })).toContainText('Timetable desktop');
  await find('send a field');
  await expect(page.getByRole('dialog')).toBeVisible();
  await page.keyboard.press('Escape');
  // whichever stands first: earlier tests may have left another
  const remedy =
    (await page
      .getByRole('button', { name: /^Try: / })
      .first()
      .getAttribute('aria-label')) ?? '';
  await find(remedy.replace(':', '').toLowerCase());
  await expect(page.getByText(/^Trying: /)).toBeVisible();
  await find('apply');
  await expect(page.getByText(/^Applied: /)).toBeVisible();
  await tabTo(page, page.getByRole('button', { name: 'Take it back' }), 200);
  await page.keyboard.press('Enter');
  await expect(page.getByText(/^Taken back: /).first()).toBeVisible();
});

test('what a button does is found by its name, and a file is asked for from any screen, once', async ({ page }) => {
  await signIn(page, people.engineer, '/estate');
  const find = async (words: string) => {
    await expect(page.getByRole('combobox', { name: /^Find/ })).toBeVisible();
    await page.keyboard.press('/');
    await page.keyboard.type(words);
  };
  const download = page.waitForEvent('download');
  await find('export people');
  await expect(page.getByRole('option').first()).toContainText('Export people');
  await page.keyboard.press('Enter');
  expect((await download).suggestedFilename()).toBe('people.csv');
  await expect(page).toHaveURL(/\/access$/);
  // coming back to the screen does not ask again
  let asked = 0;
  page.on('request', (request) => (asked += Number(request.url().includes('people-exports'))));
  await page.reload();
  await expect(page.getByRole('button', { name: 'Move people' })).toBeVisible();
  expect(asked).toBe(0);
  // a button of the page, under its own name
  await find('move people');
  await expect(page.getByRole('option', { name: /^Move people\s*here/ })).toBeVisible();
  await page.keyboard.press('Enter');
  await expect(page.getByRole('dialog')).toBeVisible();
  await page.keyboard.press('Escape');
  // the link of a stranger starts nothing
  await page.goto('/access?exports=people.csv');
  await expect(page.getByRole('button', { name: 'Move people' })).toBeVisible();
  expect(asked).toBe(0);
});

test('a list is printed as a whole: what is not fetched yet is fetched first', async ({ page }) => {
  await page.addInitScript(() => {
    window.print = () => document.body.setAttribute('data-printed', '');
  });
  await signIn(page, people.engineer, '/crossings?sort=person');
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('1127 crossings');
  await page.getByRole('button', { name: 'Print', exact: true }).click();
  await expect(page.locator('body[data-printed]')).toBeAttached({ timeout: 30_000 });
  await page.emulateMedia({ media: 'print' });
  await expect(page.getByRole('row')).toHaveCount(1128);
  await expect(page.getByText(/^The first/)).toHaveCount(0);
});

test('what is typed into a form is never taken away: a caption stays with another resource, a measurement after a reload', async ({
  page,
}) => {
  await signIn(page, people.engineer, '/access/links');
  await page.getByRole('button', { name: 'Make links' }).click();
  const caption = page.getByLabel('Caption');
  await pick(page, 'Resource', 'Timetable');
  await expect(caption).toHaveValue('Timetable desktop');
  await pick(page, 'Resource', 'Crew log');
  await expect(caption).toHaveValue('Crew log');
  await caption.fill('The log at the quay');
  await pick(page, 'Resource', 'Timetable');
  await expect(caption).toHaveValue('The log at the quay');
  await page.keyboard.press('Escape');

  await page.goto('/estate/measurements');
  await page.getByLabel('Text', { exact: true }).pressSequentially('rttMs', { delay: 20 });
  await page.waitForTimeout(700);
  page.on('dialog', (dialog) => void dialog.accept());
  await page.reload();
  await expect(page.getByLabel('Text', { exact: true })).toHaveValue('rttMs');
});

test('what was typed in the very moment before the page goes is there again', async ({ page }) => {
  await signIn(page, people.engineer, '/estate/assumed');
  page.on('dialog', (dialog) => void dialog.accept());
  /** The last letter and the reload in one: no moment in between. */
  const typedAndGone = async (field: Locator, text: string) => {
    await field.evaluate((input: HTMLInputElement | HTMLTextAreaElement, value) => {
      const { prototype } = input instanceof HTMLInputElement ? HTMLInputElement : HTMLTextAreaElement;
      Object.getOwnPropertyDescriptor(prototype, 'value')!.set!.call(input, value);
      input.dispatchEvent(new Event('input', { bubbles: true }));
      location.reload();
    }, text);
    await page.waitForLoadState();
    await expect(field).toHaveValue(text);
  };
  await typedAndGone(page.getByLabel('office work: Key to pixel, at most ms'), '240');
  await page.goto('/estate/measurements');
  await typedAndGone(page.getByLabel('Text', { exact: true }), 'rttMs');
  await page.goto('/estate/location/wexcombe');
  await typedAndGone(page.getByRole('textbox', { name: /^Name/ }), 'Depot at the ford');
  await page.goto('/access/requirements');
  await page.getByRole('button', { name: 'Write a set of your own' }).click();
  const text = page.getByLabel('YAML of the set');
  await text.fill('name: at the weir');
  await page.evaluate(() => location.reload());
  await page.waitForLoadState();
  await page.getByRole('button', { name: 'Write a set of your own' }).click();
  await expect(text).toContainText('name: at the weir');
});

test('a field left empty that must be filled is told in plain words, and nothing typed is lost', async ({ page }) => {
  await signIn(page, people.engineer, '/estate/region/new');
  await page.getByLabel('Name needed').fill('Old Hithe waters');
  await page.getByRole('button', { name: 'Save region' }).click();
  await expect(page.getByText('is missing')).toHaveCount(2);
  await expect(page.getByText('Invalid input')).toHaveCount(0);
  await expect(page.getByLabel('Name needed')).toHaveValue('Old Hithe waters');
});
