import { expect, test, type Page } from '@playwright/test';
import { people, pick, signIn } from './pages/app.js';
import { atPortal, listedOn, signInAs } from './pages/portal.js';

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
  // rows move until the list is the one that was asked for
  await expect(page.getByRole('heading', { level: 1 })).toContainText('1 of 1');
  await page.getByRole('row', { name: /Joss Vance/ }).click();
  await expect(page.getByText(/is given but hidden: the publication Safety handbook is attached to no portal/)).toBeVisible();
  await expect(page.getByText('reported').first()).toBeAttached();
  // the only one that is hidden is opened at once
  await expect(page.getByRole('button', { name: /Safety handbook.*hidden/ })).toHaveAttribute('aria-pressed', 'true');
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
  await expect(page.getByRole('region', { name: 'Features with conditions' }).getByText('not met').first()).toBeVisible();
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
  await text.fill((await text.innerText()).replace('host.release', 'host.colour'));
  await expect(page.getByText(/Line 9: .*host has no field “colour”/)).toBeVisible();
  await expect(page.getByRole('button', { name: 'Keep this set' })).toBeDisabled();
  await text.fill(
    (await text.innerText()).replace('host.colour', 'host.release').replace('11.0', '12.0').replace('My feature', 'Newest hosts'),
  );
  await expect(page.getByText(/people are not ready. Most often not met: the host is new enough/).first()).toBeVisible();
  await page.getByRole('button', { name: 'Keep this set' }).click();
  await expect(page.getByRole('button', { name: /Newest hosts own/ })).toBeVisible();
  await expect(page.getByText(/Bring the host to release/).first()).toBeVisible();
  await page.getByRole('button', { name: 'Show and edit as text' }).click();
  // somebody else keeps it while it is typed over: both are there, and neither goes unseen
  await text.fill((await text.innerText()).replace('12.0', '13.0'));
  await page.evaluate(async () => {
    const headers = { 'x-underpass': '1', 'content-type': 'application/json' };
    const sets = (await (await fetch('/api/access/requirements', { headers })).json()) as { name: string; text: string }[];
    const theirs = sets.find(({ name }) => name === 'Newest hosts')?.text.replace('12.0', '12.5');
    await fetch('/api/access/requirements', { method: 'PUT', headers, body: JSON.stringify({ text: theirs }) });
  });
  const meanwhile = page.getByRole('region', { name: 'Kept by somebody else' });
  await expect(meanwhile).toContainText('This set was kept by somebody else meanwhile. Nothing of yours is lost.');
  await expect(page.getByRole('button', { name: 'Keep this set' })).toBeDisabled();
  await meanwhile.getByText('See theirs').click();
  await expect(meanwhile.getByText('12.5')).toBeVisible();
  await expect(text).toContainText('13.0');
  await meanwhile.getByRole('button', { name: 'Go on with mine, in place of theirs' }).click();
  await page.getByRole('button', { name: 'Keep this set' }).click();
  await page.getByRole('button', { name: 'Show and edit as text' }).click();
  await expect(text).toContainText('13.0');
  await page.getByRole('button', { name: 'Remove this set' }).click();
  await expect(page.getByText(/Newest hosts is removed/)).toBeVisible();
  // what is left on purpose does not come back
  await page.getByRole('button', { name: 'Write a set of your own' }).click();
  await text.fill((await text.innerText()).replace('My feature', 'Not this one'));
  await page.getByRole('button', { name: 'Leave it' }).click();
  await page.getByRole('button', { name: 'Write a set of your own' }).click();
  await expect(text).toContainText('My feature');
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
  // somebody else writes it down meanwhile: that is seen before it is written over
  const { run: open } = (await (await page.request.get('/api/access/acceptance')).json()) as {
    run: { id: string; testers: { person: string; name: string }[] };
  };
  const { person } = open.testers.find(({ name }) => name === 'Petra Elstow')!;
  const other = { data: { saw: [], note: 'by telephone' }, headers: { 'x-underpass': '1' } };
  expect((await page.request.put(`/api/access/acceptance/${open.id}/testers/${person}`, other)).status()).toBe(200);
  await tester.getByRole('button', { name: /Keep what/ }).click();
  await expect(page.getByText(/Nothing was overwritten: look at it, then keep yours again/)).toBeVisible();
  await expect(tester.getByRole('status')).toContainText('by telephone');
  await expect(tester.getByLabel('Training desktop')).not.toBeChecked();
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
    // written, and not only being written: the next one is begun behind it
    await expect(run.getByRole('button', { name: /Keep what/ })).toHaveCount(0);
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

test('the keyboard alone leads to a missing link, and the readers of screens are told the chain', async ({ page }) => {
  await signIn(page);
  await page.keyboard.press('g');
  await page.keyboard.press('a');
  await expect(page).toHaveURL(/\/access$/);
  const search = page.getByLabel('Search people');
  await expect(search).toBeVisible();
  for (let i = 0; i < 40 && !(await search.evaluate((field) => field === document.activeElement)); i++) await page.keyboard.press('Tab');
  await expect(search).toBeFocused();
  await page.keyboard.type('Quill Saltram');
  const row = page.getByRole('row').getByRole('link', { name: 'Quill Saltram' });
  await expect(page.getByRole('row')).toHaveCount(2);
  for (let i = 0; i < 20 && !(await row.evaluate((link) => link === document.activeElement)); i++) await page.keyboard.press('Tab');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('heading', { level: 1 })).toContainText('Quill Saltram');
  const payroll = page.getByRole('button', { name: 'Payroll' });
  for (let i = 0; i < 60 && !(await payroll.evaluate((button) => button === document.activeElement)); i++) await page.keyboard.press('Tab');
  await page.keyboard.press('Enter');
  await expect(payroll).toHaveAttribute('aria-pressed', 'true');
  await expect(page.getByRole('heading', { name: /^Missing: person in group/ })).toBeVisible();
  await expect(page.getByText(/person Quill Saltram, then missing link, then group Finance/)).toBeAttached();
  // the same choice again by its address, after a reload
  await page.reload();
  await expect(page.getByRole('heading', { name: /^Missing: person in group/ })).toBeVisible();
  await page.keyboard.press('?');
  await expect(page.getByRole('dialog')).toContainText('Access');
  await page.keyboard.press('Escape');
});
