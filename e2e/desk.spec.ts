import { expect, test } from '@playwright/test';
import { readFileSync } from 'node:fs';
import { people, signIn } from './pages/app.js';

const edids = JSON.parse(readFileSync(new URL('../packages/core/src/screens/fixtures/edids.json', import.meta.url), 'utf8')) as {
  hex: string;
}[];

test('two 2160p screens do not pass their ports: what gets them through is worked out, tried, noted, and taken back', async ({ page }) => {
  await signIn(page, people.engineer, '/bringup/head-office?device=HO-013');
  await page.getByRole('link', { name: 'Screens at its desk' }).click();
  await expect(page.getByRole('heading', { name: 'One screen at HO-013: one thing is wrong' })).toBeVisible();
  // a second one, by what it says of itself
  await page.getByLabel(/Paste the EDID/).fill(edids[0]?.hex ?? '');
  await page.getByRole('button', { name: 'Read it' }).click();
  await expect(page.getByText('Screen 01, made 2016: 3840 × 2160 at 60 Hz')).toBeVisible();
  await page.getByLabel('Port of the device').selectOption('HDMI 1.4');
  await page.getByLabel('Scale').fill('1.5');
  await expect(page.getByRole('heading', { name: '2 screens at HO-013: 2 things are wrong' })).toBeVisible();
  const wrong = page.getByRole('list', { name: 'What is wrong' });
  await expect(wrong.getByText('Screen 1 needs 12.8 Gbit/s; its port (HDMI 1.4) carries 8.2.')).toBeVisible();
  await expect(wrong.getByText('Screen 01 needs 12.8 Gbit/s; its port (HDMI 1.4) carries 8.2.')).toBeVisible();
  const sessions = page.getByRole('region', { name: 'What a session gets of them' });
  const own = sessions.getByRole('row', { name: /this endpoint’s/ });
  await expect(own).toContainText('3840 × 2160 at 30 Hz3840 × 2160 at 30 Hz');
  // the modes are those that it told of
  await expect(page.getByText('Modes that it says it shows')).toBeVisible();
  const better = page.getByRole('listitem').filter({ hasText: 'Give it a port of HDMI 2.0: the mode passes' });
  await better.getByRole('button', { name: 'Try it' }).click();
  await expect(page.getByRole('heading', { name: '2 screens at HO-013: one thing is wrong' })).toBeVisible();
  await page.getByRole('button', { name: /^Screen 1, / }).click();
  await better.getByRole('button', { name: 'Try it' }).click();
  await expect(page.getByRole('heading', { name: '2 screens at HO-013, and all of them work' })).toBeVisible();
  await expect(own).toContainText('3840 × 2160 at 60 Hz3840 × 2160 at 60 Hz');
  // what is not noted is there again after a reload
  await page.waitForTimeout(400);
  await page.reload();
  await expect(page.getByRole('heading', { name: '2 screens at HO-013, and all of them work' })).toBeVisible();
  await page.getByRole('button', { name: 'Note them, and write them into its file' }).click();
  await expect(page.getByText('The screens of HO-013 are noted, and stand in its file.')).toBeVisible();
  await page.getByText('Lines of its configuration file').click();
  await expect(page.getByText('screen2 = 3840x2160@60 +3840+0 scale 1.5')).toBeVisible();
  await page.getByRole('button', { name: 'Take it back' }).click();
  await expect(page.getByRole('heading', { name: 'One screen at HO-013: one thing is wrong' })).toBeVisible();
});

test('screens are moved with the keyboard and by hand, mirrored, and turned', async ({ page }) => {
  await signIn(page, people.engineer, '/bringup/all/desk/HO-001');
  await expect(page.getByRole('heading', { name: '2 screens at HO-001, and all of them work' })).toBeVisible();
  const wrong = page.getByRole('list', { name: 'What is wrong' });
  const second = page.getByRole('button', { name: /^Screen 2, / });
  await second.focus();
  await page.keyboard.press('ArrowRight');
  await page.keyboard.press('Shift+ArrowRight');
  await expect(wrong.getByText('Between Screen 1 and Screen 2 is a gap of 11 px: the pointer does not cross it.')).toBeVisible();
  // by hand an edge that comes near is laid upon the other
  const box = (await second.boundingBox())!;
  await page.mouse.move(box.x + box.width / 2, box.y + box.height / 2);
  await page.mouse.down();
  await page.mouse.move(box.x + box.width / 2 + 20, box.y + box.height / 2, { steps: 4 });
  await page.mouse.move(box.x + box.width / 2 + 3, box.y + box.height / 2, { steps: 4 });
  await page.mouse.up();
  await expect(wrong.getByText(/is a gap/)).toHaveCount(0);
  await expect(page.getByRole('heading', { name: '2 screens at HO-001, and all of them work' })).toBeVisible();
  // right after a screen is let go the next click is its own, so that no drag chooses anything: nobody is that quick
  await page.waitForTimeout(150);
  await page.getByRole('radio', { name: '90°' }).click();
  await expect(page.getByRole('radio', { name: '90°' })).toBeChecked();
  await page.getByLabel('Side').selectOption('left of');
  await page.getByRole('button', { name: 'Put it there' }).click();
  await page.getByText('Lines of its configuration file').click();
  await expect(page.getByText('screen2 = 1920x1080@60 -1080+0 turned 90')).toBeVisible();
  await page.getByRole('button', { name: 'Mirror the primary' }).click();
  await expect(wrong.getByText('Screen 2 mirrors Screen 1 and has another shape')).toBeVisible();
  await page.getByRole('button', { name: 'Back to what stands' }).click();
  await expect(page.getByRole('heading', { name: '2 screens at HO-001, and all of them work' })).toBeVisible();
  // what is no figure is told, and what stood stays
  await page.getByLabel('Width, px').fill('12');
  await expect(page.getByText('320 to 16384')).toBeVisible();
  await page.getByLabel(/Paste the EDID/).fill('00 ff ff ff ff ff ff 00 11');
  await page.getByRole('button', { name: 'Read it' }).click();
  await expect(page.getByText(/What was pasted, byte 9: ends after 9 bytes/)).toBeVisible();
});

test('what somebody else changed while screens were arranged is not overwritten unseen, and what was arranged stays', async ({
  page,
  browser,
}) => {
  await signIn(page, people.engineer, '/bringup/all/desk/HO-002');
  await expect(page.getByRole('heading', { name: /One screen at HO-002/ })).toBeVisible();
  await page.getByLabel('Scale').fill('1.25');
  await page.waitForTimeout(400);
  const other = await (await browser.newContext()).newPage();
  await signIn(other, people.engineer, '/bringup/all/desk/HO-002');
  await other.getByLabel('Scale').fill('2');
  await other.getByRole('button', { name: 'Note these screens' }).click();
  await expect(other.getByText('The screens of HO-002 are noted.')).toBeVisible();
  // a reload fetches the newer state; what was typed rests on the older one all the same
  await page.reload();
  await expect(page.getByLabel('Scale')).toHaveValue('1.25');
  await page.getByRole('button', { name: 'Note these screens' }).click();
  await expect(page.getByRole('alert').filter({ hasText: /was changed since you saw it/ })).toBeVisible();
  await expect(page.getByLabel('Scale')).toHaveValue('1.25');
  await page.getByRole('button', { name: 'Back to what stands' }).click();
  await expect(page.getByLabel('Scale')).toHaveValue('2');
  await other.getByRole('button', { name: 'Take it back' }).click();
  await expect(page.getByLabel('Scale')).toHaveValue('1');
});
