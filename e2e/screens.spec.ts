import { expect, test } from '@playwright/test';
import { crossingPath, people, signIn, signInByHand } from './pages/app.js';

const limited = crossingPath('P136', 'WEX-TC-020', 'timetable');

test('deep links survive the sign-in and a reload', async ({ page }) => {
  await signInByHand(page, undefined, `${limited}?q=open`);
  await expect(page.getByRole('tab', { selected: true })).toContainText('Does it open?');
  await page.reload();
  await expect(page.getByRole('tab', { selected: true })).toContainText('Does it open?');
});

test('the keyboard alone leads from the Board to a tried change and back', async ({ page }) => {
  await signIn(page);
  await page.keyboard.press('?');
  await expect(page.getByRole('dialog', { name: 'Keyboard shortcuts' })).toBeVisible();
  await page.keyboard.press('Escape');
  await expect(page.getByRole('combobox', { name: /^Find/ })).toBeVisible();
  await page.keyboard.press('/');
  await page.keyboard.type('WEX-TC-020');
  await expect(page.getByRole('option', { name: /WEX-TC-020/ })).toBeVisible();
  await page.keyboard.press('Enter');
  await expect(page).toHaveURL(/estate\/endpoint\/WEX-TC-020/);
  await page.goto(limited);
  await expect(page.getByRole('heading', { name: /findings?$|finding/ }).first()).toBeVisible();
  await page.keyboard.press('4');
  await expect(page.getByRole('heading', { name: '4 Link' })).toBeVisible();
  await page.keyboard.press('ArrowRight');
  await expect(page.getByRole('heading', { name: '5 Gateway' })).toBeVisible();
  await page.keyboard.press('Escape');
  await page.keyboard.press('t');
  await expect(page.getByRole('table', { name: 'The way, bay by bay' })).toBeVisible();
  await page.keyboard.press('y');
  await page.keyboard.press('ArrowRight');
  await page.keyboard.press('Space');
  await expect(page.getByRole('button', { name: 'Back to now' })).toBeVisible();
  await page.keyboard.press('g');
  await page.keyboard.press('b');
  await expect(page).toHaveURL(/board/);
  await page.goBack();
  await expect(page).toHaveURL(/WEX-TC-020/);
});

test('whoever types a name and presses Enter before the list has followed gets what they typed', async ({ page }) => {
  await signIn(page, people.engineer, '/estate/measurements');
  const location = page.getByRole('combobox', { name: 'Location', exact: true });
  // the list of everything stands there first, and its successor is slow
  await location.focus();
  await location.press('ArrowDown');
  await expect(page.getByRole('option').first()).toBeVisible();
  await page.route(/search=Oldhithe/, async (route) => {
    await new Promise((resolve) => setTimeout(resolve, 700));
    await route.continue();
  });
  await location.fill('Oldhithe');
  await location.press('Enter');
  await expect(location).toHaveValue('Oldhithe ticket hall');
  // the same where anything is found
  await page.route(/find\?q=OLD-TC-003/, async (route) => {
    await new Promise((resolve) => setTimeout(resolve, 700));
    await route.continue();
  });
  const find = page.getByRole('combobox', { name: 'Find a person, endpoint, place, screen or action' });
  await find.fill('WEX');
  await expect(page.getByRole('option').first()).toBeVisible();
  await find.fill('OLD-TC-003');
  await find.press('Enter');
  await expect(page).toHaveURL(/OLD-TC-003/);
});

test('an edit keeps what was typed when it is wrong, is saved when it is right, and can be taken back', async ({ page }) => {
  await signIn(page, undefined, '/estate/location/marram-point');
  await page.getByLabel('Down Mbit/s').fill('plenty');
  await page.getByRole('button', { name: 'Save location' }).click();
  await expect(page.getByText('“plenty” is not a number')).toBeVisible();
  await expect(page.getByLabel('Down Mbit/s')).toHaveValue('plenty');
  await page.getByLabel('Down Mbit/s').fill('-4');
  await page.getByRole('button', { name: 'Save location' }).click();
  await expect(page.getByText('must be above 0')).toBeVisible();
  await page.getByLabel('Down Mbit/s').fill('90');
  await page.getByRole('button', { name: 'Save location' }).click();
  await expect(page.getByText(/Saved location marram-point/)).toBeVisible();
  await expect(page.getByText('Changed location marram-point')).toBeVisible();
  await page.getByRole('button', { name: 'Take it back' }).click();
  await expect(page.getByLabel('Down Mbit/s')).toHaveValue('150');
});

test('a setting is written with what the catalogue knows of it, and a number that is a word stays one', async ({ page }) => {
  await signIn(page, undefined, '/estate/setting/new');
  await page.getByLabel('Id needed').fill('tls-everywhere');
  await page.getByLabel('Key needed').fill('security.tlsMinimum');
  await expect(page.getByText('one of 1.2, 1.3')).toBeVisible();
  await page.getByLabel('Layer needed').selectOption('location');
  await page.getByLabel('Target needed').fill('wexcombe');
  await page.getByLabel('Value needed').fill('1.4');
  await page.getByRole('button', { name: 'Save setting' }).click();
  await expect(page.getByText(/must be one of 1.2, 1.3/).first()).toBeVisible();
  await expect(page.getByLabel('Value needed')).toHaveValue('1.4');
  await page.getByLabel('Value needed').fill('1.3');
  await page.getByRole('button', { name: 'Save setting' }).click();
  await expect(page.getByText(/^Saved setting tls-everywhere/)).toBeVisible();
  await page.getByRole('button', { name: 'Take it back' }).click();
  await expect(page.getByText('It was removed.')).toBeVisible();
});

test('an import is tried first, its faults are told by line, and then it is all or nothing', async ({ page }) => {
  await signIn(page, undefined, '/estate/import');
  const give = (text: string) =>
    page
      .locator('input[type=file]')
      .first()
      .setInputFiles([{ name: 'people.csv', mimeType: 'text/csv', buffer: Buffer.from(text) }]);
  await give('id,name,kind,location,groups\nP950,Ann Example,staff,atlantis,\n');
  await expect(page.getByRole('cell', { name: 'no location has the id “atlantis”' })).toBeVisible();
  await give('id,name,kind,location,groups\nP950,Ann Example,staff,head-office,all-staff\n');
  // somebody writes the same person before it is imported: that is not written over unseen
  const button = page.getByRole('button', { name: 'Import 1 changes' });
  await expect(button).toBeVisible();
  await page.evaluate(async () => {
    const headers = { 'x-underpass': '1', 'content-type': 'application/json', 'if-none-match': '*' };
    const body = JSON.stringify({ id: 'P950', name: 'Anne Example', kind: 'staff', location: 'head-office' });
    await fetch('/api/estate/person/P950', { method: 'PUT', headers, body });
  });
  await button.click();
  await expect(page.getByText('Person P950 was changed meanwhile. Nothing was written: look at it again.')).toBeVisible();
  await page.getByRole('button', { name: 'Compare again' }).click();
  await button.click();
  await expect(page.getByRole('heading', { name: 'Imported' })).toBeVisible();
  await page.goto('/estate/person?search=P950');
  await expect(page.getByRole('row', { name: /Ann Example/ })).toBeVisible();
});

test('a reader sees everything and can change nothing; a wrong sign-in is told and keeps the address', async ({ page }) => {
  await page.goto('/board');
  await page.getByLabel('Address').fill(people.reader);
  await page.getByLabel('Password').fill('wrong');
  await page.getByRole('button', { name: 'Sign in' }).click();
  await expect(page.getByText('The address or the password is not right.')).toBeVisible();
  await expect(page.getByLabel('Address')).toHaveValue(people.reader);
  await page.getByLabel('Password').fill('under-the-estuary');
  await page.getByRole('button', { name: 'Sign in' }).click();
  await expect(page.getByRole('link', { name: 'Underpass' })).toBeVisible();
  await page.goto(limited);
  await page
    .getByRole('button', { name: /^Try: / })
    .first()
    .click();
  await expect(page.getByRole('button', { name: 'See impact on the estate' })).toBeVisible();
  await expect(page.getByRole('button', { name: 'Apply', exact: true })).toHaveCount(0);
  await expect(page.getByRole('button', { name: 'Send a field check' })).toHaveCount(0);
  await page.goto('/estate/location/wexcombe');
  await expect(page.getByRole('button', { name: 'Save location' })).toHaveCount(0);
});

test('nothing is ever blank: unknown addresses, unknown crossings and a lost server are told', async ({ page }) => {
  await signIn(page);
  await page.goto('/nowhere');
  await expect(page.getByRole('heading', { name: 'There is no such page' })).toBeVisible();
  for (const [address, told] of [
    ['/crossings/a~b~c', 'There is no crossing'],
    ['/access/people/nobody', 'There is no person'],
    ['/estate/location/nowhere', 'There is no location'],
    ['/bringup/nowhere', 'There is no location'],
    ['/bringup/nowhere/joining', 'There is no location'],
    ['/bringup/nowhere/arriving', 'There is no location'],
    ['/bringup/all/desk/nothing', 'There is no endpoint'],
    ['/settings?endpoint=nothing', 'There is no endpoint'],
  ] as const) {
    await page.goto(address);
    await expect(page.getByRole('alert')).toContainText(told);
    // what is not there does not come when it is asked for again
    expect([address, await page.getByRole('heading', { level: 1 }).count()]).toEqual([address, 1]);
    // with the margin of every page
    expect([address, Number((await page.getByRole('heading', { level: 1 }).boundingBox())?.x) >= 24]).toEqual([address, true]);
    expect([address, await page.getByRole('button', { name: 'Try again' }).count()]).toEqual([address, 0]);
  }
  await page.goto('/settings/drafts/01a22443-f77e-761c-a6fd-c72629309a18');
  await expect(page.getByRole('heading', { level: 1, name: 'There is no such draft' })).toBeVisible();
  await page.goto('/check/short');
  await expect(page.getByRole('heading', { name: 'This link does not work' })).toBeVisible();
  await page.goto('/crossings');
  await expect(page.getByRole('row').nth(2)).toBeVisible();
  await page.route('**/api/crossings**', (route) => route.abort());
  await page.getByLabel('Search').fill('orla');
  await expect(page.getByRole('alert')).toContainText('does not answer', { timeout: 15_000 });
  await expect(page.getByRole('button', { name: 'Try again' })).toBeVisible();
});
