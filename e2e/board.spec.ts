import { expect, test } from '@playwright/test';
import { crossingPath, signIn, pick } from './pages/app.js';

test('the Board’s filters live in the address, and everything on it leads to the crossings behind it', async ({ page }) => {
  await signIn(page);
  await page.getByRole('button', { name: /^Gateway: \d+ Blocked/ }).click();
  await expect(page).toHaveURL(/bay=Gateway/);
  await expect(page.getByText('Shown: held in Gateway')).toBeVisible();
  await page.reload();
  await expect(page.getByText('Shown: held in Gateway')).toBeVisible();
  await page.getByRole('button', { name: 'Vessels' }).click();
  await expect(page).toHaveURL(/area=Vessels/);
  await expect(page.getByRole('rowheader')).toHaveCount(1);
  await page
    .getByRole('link', { name: /23 Blocked/ })
    .first()
    .click();
  await expect(page).toHaveURL(/area=Vessels.*resource=crew-log.*bay=Gateway/);
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('23 crossings');
  await page.getByRole('button', { name: /Remove the filter area/ }).click();
  await expect(page).not.toHaveURL(/area=/);
  await page.goBack();
  await expect(page).toHaveURL(/area=Vessels/);
});

test('a leading finding’s remedy opens a crossing with the change already on paper', async ({ page }) => {
  await signIn(page);
  await page.getByRole('link', { name: /^Let that step take 25 s at Vessels/ }).click();
  await expect(page).toHaveURL(/crossings\/.*crew-log/);
  await expect(page.getByText(/^Trying: Let that step take 25 s/)).toBeVisible();
  await expect(page.getByRole('tab', { name: /Does it open\?/ })).toContainText('Yes');
  await page.getByRole('button', { name: 'Back to now' }).click();
  await expect(page.getByRole('tab', { name: /Does it open\?/ })).toContainText('No');
});

test('what somebody has to find out leads to the object where it is written down', async ({ page }) => {
  await signIn(page, undefined, crossingPath('P084', 'HO-084', 'training'));
  await page.getByRole('button', { name: /How fast Merlin draws/ }).click();
  await page.getByRole('link', { name: /^Open Host: Ask .* for its report/ }).click();
  await expect(page).toHaveURL(/\/estate\/host\/SM-H11$/);
  await expect(page.getByRole('heading', { level: 1 })).toBeVisible();
});

test('a draft is kept, found again under Changes, opened on its crossing, and dropped', async ({ page }) => {
  await signIn(page, undefined, crossingPath('P136', 'WEX-TC-020', 'timetable'));
  await page.getByRole('radio', { name: 'H.265' }).click();
  await page.getByRole('radio', { name: '15', exact: true }).click();
  await page.getByRole('button', { name: 'Keep as draft' }).click();
  await expect(page.getByText(/Kept as draft: Codec HEVC at/)).toBeVisible();
  await page.goto('/estate/changes');
  const draft = page.getByRole('listitem').filter({ hasText: 'Codec HEVC at' });
  await draft.getByRole('link').click();
  await expect(page.getByRole('radio', { name: 'H.265' })).toBeChecked();
  await expect(page.getByRole('columnheader', { name: /after/ })).toBeVisible();
  await page.goto('/estate/changes');
  await draft.getByRole('button', { name: 'Drop it' }).click();
  await expect(draft).toHaveCount(0);
  const notice = page.getByRole('status').filter({ hasText: /^Dropped: Codec HEVC at/ });
  await notice.getByRole('button', { name: 'Keep it again' }).click();
  await draft.getByRole('link').click();
  await expect(page.getByRole('radio', { name: 'H.265' })).toBeChecked();
  // what somebody else wrote into it since it was seen is not dropped
  await page.goto('/estate/changes');
  await expect(draft).toBeVisible();
  await page.route('**/api/drafts', (route) => route.abort());
  await page.evaluate(async () => {
    const headers = { 'x-underpass': '1', 'content-type': 'application/json' };
    const [kept] = (await (await fetch('/api/drafts?', { headers })).json()) as { id: string; updatedAt: string }[];
    const body = JSON.stringify({ name: 'Codec HEVC at the hall', seen: kept?.updatedAt });
    await fetch(`/api/drafts/${kept?.id}`, { method: 'PUT', headers, body });
  });
  await page.unroute('**/api/drafts');
  await draft.getByRole('button', { name: 'Drop it' }).click();
  await expect(page.getByText('Somebody wrote this draft since you saw it. Nothing was overwritten: look at it anew.')).toBeVisible();
  await expect(draft.getByRole('link', { name: 'Codec HEVC at the hall' })).toBeVisible();
  await draft.getByRole('button', { name: 'Drop it' }).click();
  await expect(draft).toHaveCount(0);
});

test('a measurement of another program is brought in, with where it was taken, and its faults are told', async ({ page }) => {
  await signIn(page, undefined, '/estate/measurements');
  await page.getByLabel('Text', { exact: true }).fill('rttMs\n21\nfast\n');
  await page.getByRole('button', { name: 'Keep the measurement' }).click();
  await expect(page.getByRole('alert')).toContainText('Choose the location');
  await pick(page, 'Location', 'oldhithe');
  await pick(page, 'Endpoint', 'OLD-TC-004');
  await page.getByRole('button', { name: 'Keep the measurement' }).click();
  await expect(page.getByRole('alert')).toContainText(/line 3/i);
  await expect(page.getByLabel('Text', { exact: true })).toHaveValue('rttMs\n21\nfast\n');
  await page.getByLabel('Text', { exact: true }).fill(`rttMs\n${Array.from({ length: 40 }, (_, i) => 20 + (i % 5)).join('\n')}\n`);
  await page.getByRole('button', { name: 'Keep the measurement' }).click();
  await expect(page.getByRole('heading', { name: 'Kept as round trips' })).toBeVisible();
  await page.goto('/crossings?search=OLD-TC-004');
  await page
    .getByRole('row', { name: /OLD-TC-004/ })
    .first()
    .click();
  await expect(page.getByText('Round trip 22 ms').first()).toBeAttached();
});

test('long lists draw only what is seen and scroll to the end', async ({ page }) => {
  await signIn(page, undefined, '/crossings');
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('1127 crossings');
  expect(await page.getByRole('row').count()).toBeLessThan(80);
  const frame = page.getByRole('table', { name: 'Crossings' }).locator('..');
  await expect(async () => {
    await frame.evaluate((element) => element.scrollTo(0, element.scrollHeight));
    await expect(page.locator('[aria-rowindex="1128"]')).toBeVisible({ timeout: 500 });
  }).toPass({ timeout: 20_000 });
});
