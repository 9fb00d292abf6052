import { expect, test } from '@playwright/test';
import { people, pick, signIn } from './pages/app.js';

test('a wish of 60 frames for everybody: the impact names who loses on the vessels; narrowed to head office, applied, taken back, applied again', async ({
  page,
}) => {
  await signIn(page, people.engineer, '/settings?endpoint=HO-001');
  // found by what people complain of
  await page.getByRole('searchbox', { name: /^Filter \d+ settings/ }).fill('jerky video');
  const catalogue = page.getByRole('navigation', { name: 'Catalogue of settings' });
  await catalogue.getByRole('button', { name: /^Frame rate/ }).click();
  await expect(page.getByRole('heading', { level: 1, name: /^Frame rate/ })).toBeVisible();
  await expect(page.getByText('no layer sets it, so the default holds.')).toBeVisible();
  await expect(page.getByRole('region', { name: 'What each value costs' }).first().getByRole('row')).toHaveCount(4);
  // the lowest layer is chosen, and given a value and a lock
  await page
    .getByRole('list', { name: 'Layers, the nearest first' })
    .getByRole('button', { name: /^Organisation/ })
    .click();
  await page.getByRole('radio', { name: '60' }).click();
  const draft = page.getByRole('complementary', { name: 'Draft' });
  await expect(draft.getByRole('heading', { name: 'Impact of “Frame rate 60 a second”' })).toBeVisible();
  const lock = page.getByRole('checkbox', { name: 'locked for the layers above' });
  await lock.click();
  await expect(lock).toBeChecked();
  await expect(draft.getByText('Frame rate 60 a second for the whole organisation, locked')).toBeVisible();
  await expect(page.getByText(/would get 60 a second: the organisation says so and locks it/)).toBeVisible();
  await expect(draft.getByText(/MV Jonquil: \d+ frames instead of 20/).first()).toBeVisible();
  // on its own page it is narrowed, and applied
  await draft.getByRole('link', { name: 'Go on to apply it' }).click();
  await expect(page.getByRole('heading', { level: 1, name: 'Frame rate 60 a second' })).toBeVisible();
  // the address is all there is to share
  const address = page.url();
  await page.getByRole('radio', { name: 'a location' }).click();
  await pick(page, 'Location it is applied at', 'Head office');
  await page.getByRole('button', { name: 'Apply it at Head office only' }).click();
  const notice = page.getByRole('status').filter({ hasText: 'Applied: Frame rate 60 a second, at Head office only' });
  await expect(notice).toBeVisible();
  const valueAt = (endpoint: string) =>
    page.evaluate(async (id) => {
      const answer = (await (await fetch(`/api/settings/of?endpoint=${id}`, { headers: { 'x-underpass': '1' } })).json()) as {
        entries: { entry: { key: string; layer: string; value: unknown } }[];
      };
      return answer.entries
        .filter(({ entry }) => entry.key === 'picture.frameCap' && entry.layer === 'location')
        .map(({ entry }) => entry.value);
    }, endpoint);
  expect([await valueAt('HO-001'), await valueAt('MV-025')]).toEqual([[60], []]);
  await page.getByRole('button', { name: 'Take it back' }).click();
  await expect(page.getByText('Taken back: Frame rate 60 a second.')).toBeVisible();
  await expect.poll(() => valueAt('HO-001')).toEqual([]);
  await page.goto(address);
  await page.getByRole('radio', { name: 'a location' }).click();
  await pick(page, 'Location it is applied at', 'Head office');
  // somebody has it otherwise there meanwhile: that is shown before it is replaced
  await page.evaluate(async () => {
    const patch = { do: 'setting', key: 'picture.frameCap', layer: 'location', target: 'head-office', value: 25 };
    const body = JSON.stringify({ change: { patches: [patch], hypotheses: [] }, summary: 'Slower here' });
    await fetch('/api/changes', { method: 'POST', headers: { 'x-underpass': '1', 'content-type': 'application/json' }, body });
  });
  await expect(page.getByRole('region', { name: 'What stands at Head office' })).toHaveText(
    /^Frame rate is 25 a second there now \(by Ines Farrow, .+\), and becomes 60 a second, locked\.$/,
  );
  await expect(page.getByRole('heading', { name: 'What it does to everybody, at Head office only' })).toBeVisible();
  await page.getByRole('button', { name: 'Apply it at Head office only' }).click();
  await expect.poll(() => valueAt('HO-001')).toEqual([60]);
  // the strata show it, with who and when; and the past does not have it
  await page.goto('/settings?endpoint=HO-001&key=picture.frameCap');
  await expect(page.getByText(/gets 60 a second: the location says so/)).toBeVisible();
  await expect(page.getByRole('region', { name: 'History' }).getByRole('listitem').first()).toContainText('Ines Farrow');
  await page.getByLabel('Past date').fill('2026-01-31');
  await expect(page.getByText('Nothing is recorded of HO-001 on that date: its first record is later.')).toBeVisible();
  await page.getByRole('button', { name: 'Back to now' }).click();
  await expect(page.getByText(/gets 60 a second: the location says so/)).toBeVisible();
});

test('a headset that does not appear is traced to a rule; split by interface on paper it works', async ({ page }) => {
  await signIn(page, people.engineer, '/settings/redirection');
  await pick(page, 'For: person', 'Amos Tennant');
  await page.getByLabel('For: what is opened').selectOption({ label: 'call-desktop on CD-006' });
  await expect(page.getByRole('heading', { level: 1 })).toHaveText(
    /^Amos Tennant at Call desk at home: 5 of 7 functions reach the session$/,
  );
  await page.getByLabel('Device', { exact: true }).selectOption({ label: 'Headset with buttons f1a5:0103' });
  await expect(page.getByText('Rule, stops here')).toBeVisible();
  await expect(page.getByText('rule Buttons and controls is the first that fits', { exact: false })).toBeVisible();
  await expect(page.getByText('it works at the desk, and is not in the session', { exact: false })).toBeVisible();
  const rules = page.getByRole('table', { name: 'Rules, the first that fits decides' });
  await expect(rules.getByRole('row', { name: /Buttons and controls/ })).toHaveAttribute('aria-current', 'true');
  await page.getByRole('button', { name: 'its sound' }).click();
  await expect(page.getByText('Headset with buttons works in the session', { exact: false })).toBeVisible();
  await expect(page.getByText('With the draft')).toBeVisible();
  const functions = page.getByRole('table', { name: 'Functions, as they are carried' });
  await expect(functions.getByRole('row', { name: /^Audio, Headset with buttons/ })).toContainText('channel');
  await expect(functions.getByRole('row', { name: /^Controls, Headset with buttons/ })).toContainText('local only');
  await page.getByRole('link', { name: 'See impact, and apply it' }).click();
  await expect(page.getByText('A rule comes: Headset with buttons, by function')).toBeVisible();
  await expect(page.getByText(/On \d+ crossings a device starts working\./)).toBeVisible();
  await page.getByRole('button', { name: 'Drop the draft' }).click();
  await expect(page).toHaveURL(/\/settings\/drafts$/);
});

test('rules are moved by the keys of their row; a device from a listing is plugged in; what makes no sense is told by its line', async ({
  page,
}) => {
  await signIn(page, people.engineer, '/settings/redirection');
  const rules = page.getByRole('table', { name: 'Rules, the first that fits decides' });
  await rules.getByRole('button', { name: 'Move Headsets up' }).press('Enter');
  await expect(page.getByRole('region', { name: 'Change on paper' })).toBeVisible();
  await expect(rules.getByRole('row').nth(5)).toContainText('Headsets');
  await page.getByRole('button', { name: 'Drop it' }).click();
  await expect(rules.getByRole('row').nth(5)).toContainText('Buttons and controls');
  await pick(page, 'For: person', 'Amos Tennant');
  await page.getByLabel('For: what is opened').selectOption({ label: 'call-desktop on CD-006' });
  await page.getByText('A device that is not in the estate').click();
  const box = page.getByLabel(/^Paste what lsusb -v printed/);
  await box.fill('Bus 001 Device 002: ID f1d0:0802 Stick\nDevice Descriptor:\n  bcdUSB two\n');
  await page.getByRole('button', { name: 'Read it' }).click();
  await expect(page.getByText('Line 3: it bcdUSB is “two”', { exact: false })).toBeVisible();
  await box.fill(
    'Bus 001 Device 002: ID f1d0:0802 Stick\nDevice Descriptor:\n  bcdUSB 2.00\n  bDeviceClass 0\n  Configuration Descriptor:\n    MaxPower 600mA\n    Interface Descriptor:\n      bInterfaceNumber 0\n      bAlternateSetting 0\n      bInterfaceClass 8 Mass Storage\n      bInterfaceSubClass 6\n      bInterfaceProtocol 80\n',
  );
  await page.getByRole('button', { name: 'Read it' }).click();
  await page.getByLabel('Device', { exact: true }).selectOption({ label: 'Stick f1d0:0802' });
  // what is known to stop it is told, whatever else is not known
  await expect(page.getByText('Power, not known')).toBeVisible();
  await expect(page.getByText('It takes 600 mA, a port gives 500')).toBeVisible();
  await expect(page.getByText('rule Storage is the first that fits', { exact: false })).toBeVisible();
});

test('two people are compared, and the fact that decides is found', async ({ page }) => {
  await signIn(page, people.reader, '/settings/compare');
  await pick(page, 'The one: person', 'Jonas Quayle');
  await page.getByLabel('The one: what is opened').selectOption({ label: 'call-desktop on CD-005' });
  await pick(page, 'The other: person', 'Greta Carver');
  await page.getByLabel('The other: what is opened').selectOption({ label: 'call-desktop on CD-031' });
  await expect(page.getByText(/explains most: \d+ % of the difference\./)).toBeVisible();
});

test('settings go out as a file and come in again, with what nobody knows kept and told; two sides show only what differs', async ({
  page,
}) => {
  await signIn(page, people.engineer, '/settings/compare');
  await pick(page, 'First: endpoint', 'HO-002');
  const waiting = page.waitForEvent('download');
  await page.getByRole('link', { name: 'Take the file' }).click();
  expect((await waiting).suggestedFilename()).toBe('HO-002-settings.json');
  await page
    .getByLabel('Second: read a file')
    .setInputFiles({ name: 'wanted.ini', mimeType: 'text/plain', buffer: Buffer.from('[picture]\nframeCap = 24\nlater = x\n') });
  await expect(page.getByText('1 setting read; nobody knows picture.later, which is kept.')).toBeVisible();
  const rows = page.getByRole('region', { name: 'Settings that differ' }).getByRole('row');
  await expect(rows.filter({ hasText: 'picture.frameCap' })).toContainText('24 a second');
  // the heading, and what the file names; of the rest it says nothing
  await expect(rows).toHaveCount(3);
  await expect(page.getByText(/Of \d+ more the file says nothing/)).toBeVisible();
  await page.getByRole('button', { name: 'See what it does: HO-002 as wanted.ini' }).click();
  await expect(page.getByRole('heading', { name: /^(Who|Nobody) gets worse$/ })).toBeVisible();
  await page
    .getByLabel('Second: read a file')
    .setInputFiles({ name: 'wrong.ini', mimeType: 'text/plain', buffer: Buffer.from('[picture]\nframeCap 24\n') });
  await expect(page.getByText('wrong.ini: Line 2 makes no sense', { exact: false })).toBeVisible();
});

test('settings of two places and of two people: whom it is of stays in the address, and making one as the other becomes a draft', async ({
  page,
}) => {
  await signIn(page, people.engineer, '/settings/compare');
  for (const [name, place] of [
    ['First', 'MV Avocet'],
    ['Second', 'Head office'],
  ] as const) {
    await page.getByLabel(`${name}: settings of`).selectOption('location');
    await pick(page, `${name}: location`, place);
    await expect(page.getByText(/^As \d+ of \d+ endpoints there are/).nth(name === 'First' ? 0 : 1)).toBeVisible();
  }
  const table = page.getByRole('region', { name: 'Settings that differ' });
  await expect(table.getByRole('columnheader').nth(1)).toHaveText('MV Avocet');
  await page.reload();
  await expect(table.getByRole('columnheader').nth(2)).toHaveText('Head office');
  await page.getByRole('button', { name: 'Make a draft: MV Avocet as Head office' }).click();
  await expect(page.getByRole('heading', { level: 1, name: 'MV Avocet as Head office' })).toBeVisible();
  await page.getByRole('button', { name: 'Drop the draft' }).click();
  await page.goto('/settings/compare');
  await page.getByLabel('First: settings of').selectOption('person');
  await pick(page, 'First: person', 'Jonas Quayle');
  await page.getByLabel('Second: settings of').selectOption('person');
  await pick(page, 'Second: person', 'Greta Carver');
  await expect(page.getByText(/^(They are the same|\d+ settings? (is|are) otherwise)/)).toBeVisible();
});

test('what does not fit is told with whom, and one click makes a draft; the matrix says which setting decides each cell', async ({
  page,
}) => {
  await signIn(page, people.engineer, '/settings/checks');
  await expect(page.getByRole('heading', { level: 1, name: /do not fit among the settings/ })).toBeVisible();
  await page.getByRole('button', { name: 'Make a draft: Let it wait 60 s at MV Avocet' }).click();
  await expect(page.getByRole('heading', { level: 1, name: 'Let it wait 60 s at MV Avocet' })).toBeVisible();
  await expect(page.getByText('Time allowed for the second factor 60 s for location mv-avocet')).toBeVisible();
  // a name that somebody else gives it meanwhile is told beside the one that is typed
  await page.getByRole('button', { name: 'Rename it' }).click();
  await page.getByLabel('Name of the draft').fill('Patience at sea');
  await page.evaluate(async () => {
    const headers = { 'x-underpass': '1', 'content-type': 'application/json' };
    const path = `/api/drafts/${location.pathname.split('/').at(-1)}`;
    const { updatedAt: seen } = (await (await fetch(path, { headers })).json()) as { updatedAt: string };
    await fetch(path, { method: 'PUT', headers, body: JSON.stringify({ name: 'Theirs', seen }) });
  });
  await page.getByRole('button', { name: 'Keep the name' }).click();
  await expect(page.getByText('Somebody called it “Theirs” meanwhile.')).toBeVisible();
  await expect(page.getByLabel('Name of the draft')).toHaveValue('Patience at sea');
  await page.getByRole('button', { name: 'Keep the name' }).click();
  await expect(page.getByRole('heading', { level: 1, name: /^Patience at sea/ })).toBeVisible();
  await page.getByRole('button', { name: 'Drop the draft' }).click();
  await page.goto('/settings/carried');
  const row = page.getByRole('row', { name: /^Text by the clipboard/ }).first();
  await expect(row.getByRole('cell').last()).toContainText('does not leave');
  await row.getByRole('cell').last().getByRole('link', { name: 'Guests' }).click();
  await expect(page.getByRole('heading', { level: 1, name: /^Guests/ })).toBeVisible();
});
