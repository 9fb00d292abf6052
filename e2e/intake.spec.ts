import { expect, test } from '@playwright/test';
import { people, runCheck, signIn } from './pages/app.js';
import { signInFresh } from './pages/fresh.js';

test('from nothing to an answer: one person, a link, the check through a line, a verdict, in under twelve clicks', async ({
  page,
  browser,
  baseURL,
}) => {
  await signInFresh(page, baseURL);
  await expect(page.getByRole('heading', { name: 'No crossing yet' })).toBeVisible();
  // no screen that has nothing to show is a dead end
  for (const path of ['/crossings', '/access', '/settings', '/settings/carried', '/estate/gaps']) {
    await page.goto(new URL(path, page.url()).href);
    await expect(page.getByRole('link', { name: 'Check one person' })).toBeVisible();
  }
  await page.goto(new URL('/board', page.url()).href);
  let clicks = 0;
  const click = async (name: string | RegExp, role: 'button' | 'link' = 'button') => {
    clicks++;
    await page.getByRole(role, { name }).click();
  };
  await page.getByRole('link', { name: 'Check one person' }).first().click();
  clicks++;
  await page.getByLabel('Who').fill('Nova Newton');
  await page.getByLabel('What they open').fill('https://desk.example.org/open');
  await page.getByText('What you know besides').click();
  clicks++;
  await page.getByRole('radio', { name: 'office' }).click();
  await page.getByRole('radio', { name: 'browser' }).click();
  await page.getByRole('radio', { name: 'managed' }).click();
  clicks += 3;
  // what is typed and what is made are there after a reload: the link is told once
  await page.waitForTimeout(400);
  await page.reload();
  await expect(page.getByLabel('Who')).toHaveValue('Nova Newton');
  await expect(page.getByRole('radio', { name: 'managed' })).toBeChecked();
  await click('Make the link');
  const shown = await page.getByLabel('Link; it is shown this once').inputValue();
  await page.waitForTimeout(400);
  await page.reload();
  await expect(page.getByLabel('Link; it is shown this once')).toHaveValue(shown);
  const url = new URL(await page.getByLabel('Link; it is shown this once').inputValue());
  // opened where they sit: behind a line of known delay
  url.port = String(Number(url.port) + 1);
  await runCheck(browser, url.href);
  await expect(page.getByText(/Finished; the crossing shows its figures/)).toBeVisible({ timeout: 20_000 });
  await click('See the crossing', 'link');
  await expect(page.getByRole('heading', { level: 1 })).toContainText('Nova Newton');
  // what nobody said is not made up: it is Unknown, and the first finding says by what and how that is learned
  await expect(page.getByText('Unknown').first()).toBeVisible();
  await expect(page.getByText(/^Nobody knows |^Not known|is not known/).first()).toBeVisible();
  expect(clicks).toBeLessThan(12);
  // the line is measured, and the device is what its browser said
  const facts = await page.evaluate(async () => {
    const get = async (path: string) => (await fetch(`/api/${path}`)).json() as Promise<never>;
    const { rows } = (await get('estate/endpoint')) as { rows: { id: string }[] };
    const { object } = (await get(`estate/endpoint/${rows[0]?.id}`)) as { object: Record<string, unknown> };
    const { facts: known } = (await get('gaps')) as { facts: { field: string; measured: number }[] };
    return { object, known };
  });
  expect(facts.object.cores).toBeGreaterThan(0);
  expect(facts.object).toMatchObject({ name: 'Device of Nova Newton', clientKind: 'browser', ownership: 'managed' });
  expect(facts.known.find(({ field }) => field === 'delayMs')).toMatchObject({ measured: 1 });
  expect(facts.known.find(({ field }) => field === 'screens')).toMatchObject({ measured: 1 });
  // the Board leads on
  await page.goto(new URL('/board', page.url()).href);
  await expect(page.getByRole('heading', { name: 'First steps' })).toBeVisible();
  await expect(page.getByRole('heading', { name: 'First steps' }).locator('..').getByRole('listitem')).not.toHaveCount(0);
});

/** A list as people have it: title above the head, German and English mixed, Windows-1252, eleven faults of different kinds. */
function devices(month: 'first' | 'later'): Buffer {
  const sites = ['North Yard', 'Halle Süd', 'Büro Mitte', 'South quay'];
  const types = ['Thin Client', 'Notebook', 'PC', 'Tablet'];
  const rows = Array.from({ length: 400 }, (_, i) => {
    const ram = month === 'later' && i < 5 ? 32 : [4, 8, 16][i % 3];
    return [
      `Gerät ${i + 1}`,
      `N-${1000 + i}`,
      types[i % 4],
      sites[i % 4],
      String(ram),
      i % 2 ? '1920x1080' : '2x 1920 x 1080',
      i % 7 ? 'Firma' : 'privat',
      i % 3 ? 'LAN' : 'WLAN',
      '1.024,50',
      '',
    ];
  });
  const put = (row: number, cell: number, text: string) => {
    (rows[row] as string[])[cell] = text;
  };
  put(10, 2, 'Toaster'); // a word nobody knows
  put(20, 4, 'viel'); // no figure
  put(30, 5, 'groß'); // no screen
  put(40, 6, 'geliehen'); // an owner nobody knows
  put(50, 7, 'Taube'); // no connection
  put(60, 1, 'N-1000'); // an id that stands above
  put(70, 4, '8 Liter'); // a unit of something else
  put(80, 4, '50 %'); // a share where none can be
  put(90, 0, 'x'.repeat(130)); // too long
  put(100, 5, '10x10'); // smaller than any screen
  put(110, 4, '-8'); // less than nothing
  const head = ['Gerätename', 'Asset tag', 'Type', 'Standort', 'RAM (GB)', 'Auflösung', 'Eigentum', 'Network', 'Kaufpreis', 'Bemerkung'];
  const text = ['Geräteliste', '', head.join(';'), ...rows.map((cells) => cells.join(';'))].join('\r\n');
  return Buffer.from(`${text}\r\n`, 'latin1');
}

test('from nothing by a spreadsheet of 400 devices: mapped, mended, taken in; a month later only what changed changes', async ({
  page,
  baseURL,
}) => {
  await signInFresh(page, baseURL, '/estate/list');
  const send = (month: 'first' | 'later') =>
    page.getByLabel('Choose a list').setInputFiles({ name: `devices-${month}.csv`, mimeType: 'text/csv', buffer: devices(month) });
  await send('first');
  await expect(page.getByText('rows of text, Windows-1252, cells parted by a semicolon, 400 rows')).toBeVisible();
  await expect(page.getByLabel('Columns are named in line')).toHaveValue('3');
  for (const [column, field] of [
    ['Gerätename', 'name'],
    ['Asset tag', 'id'],
    ['Type', 'deviceClass'],
    ['Standort', 'location'],
    ['RAM (GB)', 'memoryMB'],
    ['Auflösung', 'screens'],
    ['Eigentum', 'ownership'],
    ['Network', 'connection'],
    ['Kaufpreis', ''],
  ])
    await expect(page.getByLabel(`${column} fills`, { exact: true })).toHaveValue(field as string);
  await page.getByLabel('Make locations that are not there yet').check();
  await page.getByRole('button', { name: 'See what it comes to' }).click();
  const count = (name: string) =>
    page
      .locator('dt', { hasText: new RegExp(`^${name}$`) })
      .locator('..')
      .locator('dd');
  await expect(count('new')).toHaveText('389', { timeout: 30_000 });
  await expect(count('not taken')).toHaveText('11');
  // each fault is told with its row and what would be right
  await expect(page.getByRole('row', { name: /^14 Type “Toaster” is not a word known here/ })).toBeVisible();
  await expect(page.getByRole('row', { name: /^64 Asset tag Stands in row 4 already/ })).toBeVisible();
  // one is said once for all lists, the others are mended in their cells
  await page.getByLabel('Toaster means').selectOption('kiosk');
  await page.getByLabel('geliehen means').selectOption('managed');
  await page.getByLabel('Taube means').selectOption('unknown');
  for (const [cell, text] of [
    ['Row 24, RAM (GB)', '16'],
    ['Row 34, Auflösung', '1920x1080'],
    ['Row 64, Asset tag', 'N-1060'],
    ['Row 74, RAM (GB)', '8'],
    ['Row 84, RAM (GB)', '8'],
    ['Row 94, Gerätename', 'Gerät 91'],
    ['Row 104, Auflösung', '1280x1024'],
    ['Row 114, RAM (GB)', '8'],
  ])
    await page.getByLabel(cell as string, { exact: true }).fill(text as string);
  await page.getByRole('button', { name: 'See what it comes to now' }).click();
  await expect(count('new')).toHaveText('400');
  await expect(count('not taken')).toHaveText('0');
  // the mapping is kept for the next month
  await page.getByLabel('Keep this mapping as').fill('Device list');
  await page.getByRole('button', { name: 'Keep', exact: true }).click();
  await expect(page.getByRole('status').filter({ hasText: 'The mapping is kept as “Device list”' })).toBeVisible();
  await page.getByRole('button', { name: 'Take in 400 endpoints' }).click();
  await expect(page.getByRole('heading', { name: 'Taken in' })).toBeVisible({ timeout: 30_000 });
  const total = async (kind: string) =>
    page.evaluate(async (of) => ((await (await fetch(`/api/estate/${of}`)).json()) as { total: number }).total, kind);
  // those of the first test stand beside them
  expect(await total('endpoint')).toBeGreaterThanOrEqual(400);
  expect(await total('location')).toBeGreaterThanOrEqual(4);

  await send('later');
  await expect(page.getByText('devices-later.csv')).toBeVisible();
  await page.getByLabel('Mapped as').selectOption('Device list');
  await page.getByRole('button', { name: 'See what it comes to' }).click();
  await expect(count('changed')).toHaveText('5');
  await expect(count('new')).toHaveText('0');
  // the six that stand with a fault of the figures again, the name and the id; those that were said once are taken as said
  await expect(count('not taken')).toHaveText('8');
  await expect(count('as they were')).toHaveText('387');
});

test('what is known of the demo, and what is best measured: sent as links, with their codes', async ({ page }) => {
  await signIn(page, people.engineer, '/estate/gaps');
  await expect(page.getByRole('heading', { level: 1, name: /^\d+ crossings are Unknown$/ })).toBeVisible();
  await expect(page.getByRole('row', { name: /One field check at/ }).first()).toBeVisible();
  await page
    .getByRole('button', { name: /^Send: One field check/ })
    .first()
    .click();
  await page.getByRole('button', { name: /^Make the link/ }).click();
  await expect(page.getByRole('img', { name: /^Code of the field check on/ })).toBeVisible();
  await expect(page.getByRole('dialog').getByText(/\/check\//)).toBeVisible();
});
