import { expect, type Browser, type Page } from '@playwright/test';

const base = () => `http://localhost:${Number(process.env.E2E_PORT ?? 4750) + 4}`;

/** Signs in at a portal of the stand-in as somebody of the estate, in a browser of their own. */
export async function atPortal(browser: Browser, portal: string, person: string): Promise<Page> {
  const page = await (await browser.newContext()).newPage();
  await page.goto(`${base()}/${portal}/`);
  await signInAs(page, person);
  return page;
}

export async function signInAs(page: Page, person: string): Promise<void> {
  await page.getByLabel('Your number').fill(person);
  await page.getByLabel('Password').fill('anything');
  await page.getByRole('button', { name: 'Sign in' }).click();
  const guest = page.getByRole('button', { name: 'Yes, it is me' });
  const shown = page.getByText(/Your phone shows/);
  await expect(page.getByLabel('Your number')).toHaveCount(0);
  if (await guest.isVisible()) await guest.click();
  if (await shown.isVisible()) {
    const [, first, second] = /(\d{3}) (\d{3})/.exec((await shown.textContent()) ?? '') ?? [];
    await page.getByLabel('Code').fill(`${first}${second}`);
    await page.getByRole('button', { name: 'Go on' }).click();
  }
}

/** What the list offers, by identifier. */
export const listedOn = (page: Page): Promise<string[]> =>
  page.locator('[data-resource]').evaluateAll((buttons) => buttons.map((button) => (button as HTMLElement).dataset.resource ?? '').sort());
