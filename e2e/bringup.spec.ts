import { expect, test } from '@playwright/test';
import { people, signIn } from './pages/app.js';

test('from the places to one device: what stops it, told apart by telephone, mended, and taken back', async ({ page }) => {
  await signIn(page, people.engineer, '/bringup');
  await expect(page.getByRole('heading', { name: /of 176 devices reach their sign-in screen/ })).toBeVisible();
  await page.getByRole('link', { name: 'Brack repair dock' }).click();
  await expect(page.getByRole('heading', { name: 'BRK-K01 stops at “server told”' })).toBeVisible();
  await expect(
    page.getByRole('paragraph').filter({ hasText: 'brack-lan gives option 226 as an address; a kiosk reads text.' }),
  ).toBeVisible();
  // the steps are there for whoever does not see the drawing
  await expect(page.getByRole('table', { name: 'Steps of the start' }).getByRole('row')).toHaveCount(13);
  await page.getByRole('button', { name: 'Odd signs' }).click();
  await expect(page.getByRole('status').filter({ hasText: 'It is this: brack-lan gives option 226' })).toBeVisible();
  await page.getByRole('button', { name: 'It is done: note it in the estate' }).click();
  await expect(page.getByRole('heading', { name: /BRK-K01 reaches its sign-in after/ })).toBeVisible();
  await page.getByRole('button', { name: 'Take it back' }).click();
  await expect(page.getByRole('heading', { name: 'BRK-K01 stops at “server told”' })).toBeVisible();
});

test('the devices of a place by keyboard, those that stop first', async ({ page }) => {
  await signIn(page, people.engineer, '/bringup/marram-point');
  await expect(page.getByRole('heading', { name: 'MAR-TC-016 stops at “link”' })).toBeVisible();
  for (const key of ['j', 'j', 'j', 'Enter']) await page.keyboard.press(key);
  await expect(page.getByRole('heading', { name: 'MAR-TC-020 stops at “files”' })).toBeVisible();
  await expect(page.getByText('has no “=”: “frameCap 24”')).toBeVisible();
  for (const key of ['k', 'Enter']) await page.keyboard.press(key);
  await expect(page.getByRole('heading', { name: 'MAR-TC-019 stops at “link”' })).toBeVisible();
  await expect(page).toHaveURL(/device=MAR-TC-019/);
});

test('the key of a network is kept sealed, shown on demand, and typed anew it is sealed again', async ({ page }) => {
  await signIn(page, people.engineer, '/estate/location/gullsey');
  const key = page.getByLabel('Wi-Fi key');
  await expect(key).toHaveValue('');
  await expect(page.getByText('Keel-and-cradle')).toHaveCount(0);
  await page.getByRole('button', { name: 'Show it' }).click();
  await expect(page.getByText('Keel-and-cradle')).toBeVisible();
  await key.fill('Slipway-and-winch');
  // what is being typed of it is kept nowhere, the rest is
  await page.getByLabel('Wi-Fi network').fill('Saltmarsh-Slip');
  await page.waitForTimeout(600);
  expect(await page.evaluate(() => Object.values(sessionStorage).join())).not.toContain('Slipway');
  await page.reload();
  await expect(page.getByLabel('Wi-Fi network')).toHaveValue('Saltmarsh-Slip');
  await expect(page.getByRole('button', { name: 'Show it' })).toBeVisible();
  await key.fill('Slipway-and-winch');
  await page.getByRole('button', { name: 'Save location' }).click();
  await expect(page.getByText('Saved location gullsey.')).toBeVisible();
  await page.getByRole('button', { name: 'Show it' }).click();
  await expect(page.getByText('Slipway-and-winch')).toBeVisible();
  await page.getByRole('button', { name: 'Take it back' }).click();
  await expect(page.getByLabel('Wi-Fi network')).toHaveValue('Saltmarsh-Dock');
});

test('a configuration file is mended in its form, signed anew, and the device starts', async ({ page }) => {
  await signIn(page, people.engineer, '/estate/configFile/MAR-TC-020');
  const text = page.getByLabel('Text needed');
  await expect(text).toHaveValue('[picture]\nframeCap 24\n');
  await text.fill('[picture]\nframeCap = 24\n');
  await page.getByRole('button', { name: 'Save configuration file' }).click();
  await expect(page.getByText('Saved configuration file MAR-TC-020.')).toBeVisible();
  await page.goto('/bringup/marram-point?device=MAR-TC-020');
  await expect(page.getByRole('heading', { name: /MAR-TC-020 reaches its sign-in after/ })).toBeVisible();
  await expect(page.getByRole('row', { name: /\[picture\] frameCap/ })).toContainText('MAR-TC-020, line 2');
});
