import { expect, type Page } from '@playwright/test';

/** The server with nothing in it stands beside the other one. */
export const freshAt = (baseURL: string | undefined): string => {
  const address = new URL(baseURL ?? '');
  address.port = String(Number(address.port) + 6);
  return address.origin;
};

/** Signs its one administrator in. */
export async function signInFresh(page: Page, baseURL: string | undefined, path = '/board'): Promise<void> {
  await page.goto(`${freshAt(baseURL)}${path}`);
  await page.getByLabel('Address').fill('new.admin@example.org');
  await page.getByLabel('Password').fill('under-the-estuary');
  await page.getByRole('button', { name: 'Sign in' }).click();
  await expect(page.getByRole('link', { name: 'Underpass' })).toBeVisible();
}
