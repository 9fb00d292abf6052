import { expect, test } from '@playwright/test';
import { readFileSync } from 'node:fs';
import { people, signIn } from './pages/app.js';

test('a card is planned: what fits, its size, the answers of its first start held against the place', async ({ page }) => {
  await signIn(page, people.engineer, '/bringup/gullsey?device=GUL-K02');
  await page.getByRole('link', { name: 'Plan a card for it' }).click();
  await expect(page.getByRole('heading', { name: 'One image lets anybody in with the password it is delivered with' })).toBeVisible();
  await expect(page.getByText('it is for the model Weir 4, and of this device nobody said.')).toBeVisible();
  await page.getByLabel('Card, GB').fill('2');
  await expect(page.getByText('Too small: the image has 3.90 GB.')).toBeVisible();
  await page.getByLabel('Card, GB').fill('16');
  await page.getByLabel('Called').fill('WEIR');
  await expect(page.getByText(/card kiosk-2\.4_95-arm64\.img \/dev\/… --write --size 16 --label WEIR --sha256 5f1c/)).toBeVisible();
  await expect(page.getByText('All of them agree with the place.')).toBeVisible();
  await page.getByLabel('Zone').fill('Europe/Oslo');
  await page.getByLabel('Keyboard').fill('no');
  await expect(page.getByText(/its clock would be 1 h fast\. Right would be Europe\/London\./)).toBeVisible();
  await expect(page.getByText('2 do not agree with the place.')).toBeVisible();
  // a file with a password in it is refused, without saying the password
  const file = (text: string) => ({ name: 'first-boot.ini', mimeType: 'text/plain', buffer: Buffer.from(text) });
  const good = '[first-boot]\nzone = Europe/London\nlocale = en-GB\nkeyboard = gb\nmode = kiosk\npassword = ask\n';
  await page.getByLabel('File of answers').setInputFiles(file(good.replace('ask', 'hunter2')));
  await expect(page.getByText('first-boot.ini, line 6: is no rule for a password')).toBeVisible();
  await expect(page.getByText('hunter2')).toHaveCount(0);
  await page.getByLabel('File of answers').setInputFiles(file(good));
  await expect(page.getByText('All of them agree with the place.')).toBeVisible();
  const waiting = page.waitForEvent('download');
  await page.getByRole('link', { name: 'Take the file' }).click();
  expect(readFileSync((await (await waiting).path())!, 'utf8')).toBe(good);
});

test('a card that was written is read back in the browser', async ({ page }) => {
  await signIn(page, people.engineer, '/bringup/all/images');
  const image = Buffer.alloc(2_500_000, 'an image');
  const file = (buffer: Buffer) => ({ name: 'card.img', mimeType: 'application/octet-stream', buffer });
  await page.getByLabel('Image: a file').setInputFiles(file(image));
  const card = Buffer.concat([image, Buffer.alloc(1000)]);
  await page.getByLabel('Read back: a file').setInputFiles(file(card));
  await page.getByRole('button', { name: 'Hold them against each other' }).click();
  await expect(page.getByText('The card holds the image: all 2500000 bytes are the same.')).toBeVisible();
  card[1_048_577] = 0;
  await page.getByLabel('Read back: a file').setInputFiles(file(card));
  await page.getByRole('button', { name: 'Hold them against each other' }).click();
  await expect(page.getByText('The card does not hold the image: byte 1048577 is another.')).toBeVisible();
});

test('what devices cost over their life, and where another becomes cheaper', async ({ page }) => {
  await signIn(page, people.engineer, '/bringup');
  await page.getByRole('link', { name: 'What devices cost' }).click();
  await expect(page.getByRole('heading', { name: 'Purpose-built thin client: the cheapest from 8 years on' })).toBeVisible();
  const turns = page.getByRole('list', { name: 'Where another becomes cheaper' });
  await expect(turns.getByText('1.8 years: Small board with a card becomes cheaper than Old computer started from a stick')).toBeVisible();
  await page.getByLabel('Years looked at').fill('1');
  await expect(page.getByRole('heading', { name: 'Old computer started from a stick: the cheapest from the first day' })).toBeVisible();
  await page.getByLabel('Support, an hour').fill('much');
  await expect(page.getByText('0 to 10000; 60 is reckoned with')).toBeVisible();
});
