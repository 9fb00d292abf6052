import { expect, test } from '@playwright/test';
import { switchOn } from '@underpass/standins';
import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { people, signIn } from './pages/app.js';

test('from the places to one device: what stops it, told apart by telephone, mended, and taken back', async ({ page }) => {
  await signIn(page, people.engineer, '/bringup');
  await expect(page.getByRole('heading', { name: /of 200 devices reach their sign-in screen/ })).toBeVisible();
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

test('a batch before it arrives: what is missing, and where that is mended', async ({ page }) => {
  await signIn(page, people.engineer, '/bringup/marram-point');
  await page.getByRole('link', { name: 'Before they arrive' }).click();
  await expect(page.getByRole('heading', { name: '33 new devices for Marram Point ticket hall: at most 20 will start' })).toBeVisible();
  const missing = page.getByRole('list', { name: 'What is missing' });
  await expect(missing.getByText('33 addresses are wanted, 20 are free.')).toBeVisible();
  await expect(missing.getByRole('listitem').filter({ hasText: 'The network cable is not plugged in.' })).toContainText(
    'One device: MAR-TC-016',
  );
  await expect(missing.getByText('One of them installs other firmware first: 640 MB over the line of the place.')).toBeVisible();
  await missing.getByRole('link', { name: 'MAR-TC-019' }).click();
  await expect(page.getByRole('heading', { name: 'MAR-TC-019 stops at “link”' })).toBeVisible();
});

/** The devices of a place are switched on for real, with the demo as it is on disk but for what a test has otherwise. */
function started(base: string, place: string, edit: (name: string, text: string) => string = (_, text) => text) {
  const folder = new URL('../demo/saltmarsh', import.meta.url).pathname;
  const files = new Map(readdirSync(folder).map((name) => [name, edit(name, readFileSync(join(folder, name), 'utf8'))]));
  return switchOn({ base, files, places: [place], deviceKey: 'a key for the devices of the browser tests', nowMs: Date.now() });
}

test('a hall of devices is switched on: those that fail tell it, the screen names why, they are mended, and start', async ({
  page,
  baseURL,
}) => {
  await signIn(page, people.engineer, '/bringup/marram-point?device=MAR-TC-021');
  await expect(page.getByRole('heading', { name: 'MAR-TC-021 stops at “files”' })).toBeVisible();
  await expect(page.getByText('as the device told')).toHaveCount(0);
  const first = await started(baseURL ?? '', 'marram-point');
  const stopped = first.filter(({ brokenStep }) => brokenStep).map(({ id, brokenStep }) => `${id} ${brokenStep}`);
  expect(stopped.sort().join('\n')).toContain('MAR-TC-021 configuration files fetched and merged');
  expect(stopped.length).toBeGreaterThanOrEqual(5);
  // what it told comes up by itself, and is what was worked out
  await expect(page.getByText(/as the device told: it stopped at “files”: MAR-TC-021: its sum is another/)).toBeVisible();
  await expect(page.getByText(/That is another than worked out/)).toHaveCount(0);
  // three are mended: a file published anew, a cable plugged in, a clock set
  const mend = async (device: string, heading: RegExp) => {
    await page
      .getByRole('region', { name: 'Devices' })
      .getByRole('link', { name: new RegExp(device) })
      .click();
    await expect(page.getByRole('heading', { name: heading })).toBeVisible();
    await page.getByRole('button', { name: 'It is done: note it in the estate' }).click();
    await expect(page.getByRole('heading', { name: new RegExp(`${device} reaches its sign-in after`) })).toBeVisible();
  };
  await mend('MAR-TC-021', /MAR-TC-021 stops at “files”/);
  await mend('MAR-TC-016', /MAR-TC-016 stops at “link”/);
  await mend('MAR-TC-018', /MAR-TC-018 stops at “time”/);
  // and really are, on their desks
  const mended = await started(baseURL ?? '', 'marram-point', (name, text) =>
    name !== 'endpoints.csv'
      ? text
      : text
          .split('\n')
          .map((row) => (/^MAR-TC-016,/.test(row) ? row.replace(',no,', ',yes,') : row.replace('2019-01-01T00:00:00Z', 'right')))
          .join('\n'),
  );
  const again = new Map(mended.map(({ id, brokenStep }) => [id, brokenStep]));
  expect(['MAR-TC-016', 'MAR-TC-018', 'MAR-TC-021'].map((id) => again.get(id))).toEqual([null, null, null]);
  await expect(page.getByText(/as the device told: it reached its sign-in screen/)).toBeVisible();
});

test('what the settings come to is published at once and taken back in one step', async ({ page }) => {
  await signIn(page, people.engineer, '/bringup');
  await page.getByText('everybody').click();
  await expect(page.getByText('address = access.saltmarsh.example')).toBeVisible();
  await page.getByRole('button', { name: /^Publish these \d+ files/ }).click();
  await expect(page.getByText(/All \d+ are published as the settings are now/)).toBeVisible();
  await page.getByRole('button', { name: 'Take it back' }).click();
  await expect(page.getByRole('button', { name: /^Publish these \d+ files/ })).toBeVisible();
});

test('firmware on its way to a place: who is put back, and when it ends by three ways', async ({ page }) => {
  await signIn(page, people.engineer, '/bringup/gullsey');
  await page.getByRole('link', { name: 'Firmware on its way here' }).click();
  await expect(page.getByRole('heading', { name: '2 devices of Gullsey repair dock will install something' })).toBeVisible();
  await expect(page.getByText('2.4_95, 210 MB, on 2; each of them is put back to it from something newer')).toBeVisible();
  const turn = page.getByRole('region', { name: 'one after the other' });
  await expect(turn.getByText(/Done after/)).toBeVisible();
  const ended = await turn.getByRole('strong').innerText();
  // what is no share is told, and what stood stays
  await page.getByLabel('in working hours').fill('200');
  await expect(page.getByText('Type 0 to 100 for the part in working hours; below it stands with 10 %.')).toBeVisible();
  await expect(turn.getByRole('strong')).toHaveText(ended);
  await page.getByLabel('outside of them').fill('1');
  await page.getByLabel('in working hours').fill('1');
  await expect(turn.getByRole('strong')).not.toHaveText(ended);
});

test('firmware is put up: that it is older than what devices have is caught, wants a reason, and is taken back', async ({ page }) => {
  await signIn(page, people.engineer, '/bringup');
  await page.getByRole('link', { name: 'Firmware that is up' }).click();
  await expect(page.getByRole('heading', { name: '3 devices are put back to older firmware at the next start' })).toBeVisible();
  const bytes = Buffer.alloc(5_000_000, 'the bytes of a firmware file');
  await page
    .getByLabel('File of firmware')
    .setInputFiles({ name: 'tc-4.10.2-arm64.img', mimeType: 'application/octet-stream', buffer: bytes });
  // what its name says is taken over
  await expect(page.getByLabel('Name')).toHaveValue('tc-4.10.2-arm64');
  await expect(page.getByLabel('Version')).toHaveValue('4.10.2');
  await page.getByLabel('Device').selectOption('kiosk');
  await page.getByLabel('Version').fill('2.4_94');
  await page.getByRole('radio', { name: 'armhf' }).click();
  await expect(page.getByText('no device', { exact: true })).toBeVisible();
  await page.getByRole('radio', { name: 'arm64' }).click();
  await expect(page.getByText(/\d+ devices offered something higher/)).toBeVisible();
  await page.getByLabel('Version').fill('2.4_96');
  await expect(page.getByRole('status').getByText(/devices? put back to it/)).toBeVisible();
  await page.getByRole('button', { name: 'Put up this firmware' }).click();
  await expect(page.getByText(/Must be given: .* something newer than 2\.4_96/)).toBeVisible();
  // nothing typed is lost by that
  await expect(page.getByLabel('Version')).toHaveValue('2.4_96');
  await page.getByLabel('Reason').fill('2.5 loses the card reader');
  await page.getByRole('button', { name: 'Put up this firmware' }).click();
  await expect(page.getByText('tc-4.10.2-arm64 is up, and its bytes are here.')).toBeVisible();
  const row = page.getByRole('row', { name: /2\.4_96/ });
  await expect(row).toContainText('Here, and its sum is right');
  await expect(row).toContainText('Reason: 2.5 loses the card reader');
  await page.getByRole('button', { name: 'Take it back' }).click();
  await expect(row).toHaveCount(0);
});

test('somebody is led through joining the Wi-Fi of their place; the key is shown on demand alone', async ({ page }) => {
  await signIn(page, people.engineer, '/bringup/marram-point');
  await page.getByRole('link', { name: 'Wi-Fi card' }).click();
  await expect(page.getByText('Ebb-at-eleven')).toHaveCount(0);
  await page.getByRole('button', { name: 'Show the card' }).click();
  await expect(page.getByRole('heading', { name: 'Join “Saltmarsh-Hall”' })).toBeVisible();
  await expect(page.getByText('Ebb-at-eleven')).toBeVisible();
  await expect(page.getByRole('img', { name: 'Code to join Saltmarsh-Hall' })).toBeVisible();
  await expect(page.getByRole('listitem').filter({ hasText: 'In the list choose “Saltmarsh-Hall”' })).toBeVisible();
  await expect(page.getByRole('listitem').filter({ hasText: /^capital E$/ })).toBeVisible();
  // what the device found is held against the network, without being sent anywhere
  const scan = page.getByLabel(/Paste what/);
  await scan.fill('ssid,signal,channel,security\nsaltmarsh-hall,-60,36,WPA2\n');
  await expect(page.getByText('“Saltmarsh-Hall” is not there; “saltmarsh-hall” is.')).toBeVisible();
  await scan.fill('ssid,signal,channel,security\nSaltmarsh-Hall,-78,3,WPA2\nOther,-50,1,WPA2\n');
  await expect(page.getByText('Too weak', { exact: true })).toBeVisible();
  await expect(page.getByText('Channel 3 lies between those that do not overlap.')).toBeVisible();
  await scan.fill('ssid,signal,channel\nSaltmarsh-Hall,loud,3\n');
  await expect(page.getByText('line 2: has the signal “loud”')).toBeVisible();
  // nothing of it is left when the page is left
  await page.getByRole('link', { name: 'Marram Point ticket hall' }).click();
  await page.getByRole('link', { name: 'Wi-Fi card' }).click();
  await expect(page.getByText('Ebb-at-eleven')).toHaveCount(0);
});
