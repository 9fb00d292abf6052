import { expect, test } from '@playwright/test';
import { people, signIn } from './pages/app.js';

test('somebody is asked by telephone until one cause is left; an answer is taken back, and what they cannot say rules nothing out', async ({
  page,
}) => {
  await signIn(page, people.engineer, '/bringup/marram-point?device=MAR-TC-019');
  await page.getByRole('link', { name: 'Lead somebody by telephone' }).click();
  const question = page.getByRole('heading', { level: 1 });
  await expect(question).toHaveText('What does the screen say?');
  await expect(page.getByRole('heading', { name: '45 of 45 causes are left' })).toBeVisible();
  await page.getByRole('button', { name: 'No network' }).click();
  await expect(page.getByRole('heading', { name: '9 of 45 causes are left' })).toBeVisible();
  // what is asked next tells the likeliest apart from the rest
  await expect(question).toHaveText('Please let the key be shown, and read it to me sign by sign. What is it?');
  // by keyboard the next answer is one step away
  await page.getByRole('button', { name: 'Take the last answer back' }).click();
  await page.getByRole('button', { name: 'No network' }).focus();
  await page.keyboard.press('Enter');
  await expect(question).toHaveText(/let the key be shown/);
  await page.keyboard.press('Tab');
  await expect(page.getByRole('button', { name: 'The field is empty' })).toBeFocused();
  await page.getByRole('button', { name: 'They cannot say' }).click();
  await expect(page.getByRole('heading', { name: '9 of 45 causes are left' })).toBeVisible();
  await expect(question).not.toHaveText(/let the key be shown/);
  await page.getByRole('button', { name: 'Take the last answer back' }).click();
  await page.getByRole('button', { name: 'Another key' }).click();
  // nothing but a name is left to be told apart from
  await expect(question).toHaveText('Type the key of “Saltmarsh-Hall” on the device anew.');
  await page.waitForTimeout(400);
  await page.reload();
  await expect(question).toHaveText('Type the key of “Saltmarsh-Hall” on the device anew.');
  await page.getByRole('button', { name: 'Show all, with what ruled them out' }).click();
  await expect(page.getByRole('listitem').filter({ hasText: 'Cable out' })).toContainText('ruled out');
  await page.getByRole('button', { name: 'Begin anew' }).click();
  await page.getByRole('button', { name: 'It stays dark' }).click();
  await expect(question).toHaveText('It is nothing of this list');
});

test('somebody at home is led through joining their Wi-Fi, a sentence at a time, and helped where they are stuck', async ({ page }) => {
  await signIn(page, people.engineer, '/bringup/all/telephone/CD-002');
  const step = page.getByRole('heading', { level: 1 });
  await expect(step).toHaveText(/Find the box that brings the internet into your home/);
  await page.getByRole('button', { name: 'I cannot find the box' }).click();
  await expect(page.getByText(/Look where the telephone or the television cable comes out of the wall/)).toBeVisible();
  await page.getByRole('button', { name: 'Done, the next' }).click();
  await expect(page.getByText(/Look where the telephone/)).toHaveCount(0);
  await page.getByRole('button', { name: 'Done, the next' }).click();
  await page.waitForTimeout(400);
  await page.reload();
  await expect(page.getByText(/^Step 3 of/)).toBeVisible();
  const next = page.getByRole('button', { name: 'Done, the next' });
  while (await next.isVisible()) await next.click();
  await page.getByRole('button', { name: 'Yes: it has joined' }).click();
  await expect(step).toHaveText('It has joined. Now it starts as it would anywhere.');
});
