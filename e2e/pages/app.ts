import { expect, type Browser, type Page } from '@playwright/test';

export const people = { engineer: 'ines.farrow@saltmarsh.example', reader: 'reader@saltmarsh.example' };

/** Signs in as the page for it does, and opens a screen. */
export async function signIn(page: Page, email = people.engineer, path = '/board'): Promise<void> {
  const answer = await page.request.post('/api/session', {
    data: { email, password: 'under-the-estuary' },
    headers: { 'x-underpass': '1' },
  });
  expect(answer.status()).toBe(200);
  await page.goto(path);
  await expect(page.getByRole('link', { name: 'Underpass' })).toBeVisible();
}

/** Signs in on the page for it, which then leads to the screen that was asked for. */
export async function signInByHand(page: Page, email = people.engineer, path = '/board'): Promise<void> {
  await page.goto(path);
  await page.getByLabel('Address').fill(email);
  await page.getByLabel('Password').fill('under-the-estuary');
  await page.getByRole('button', { name: 'Sign in' }).click();
  await expect(page.getByRole('link', { name: 'Underpass' })).toBeVisible();
}

export const crossingPath = (person: string, endpoint: string, resource: string): string =>
  `/crossings/${encodeURIComponent(`${person}~${endpoint}~${resource}`)}`;

/** Makes a field check link on the crossing that is open. */
export async function makeLink(page: Page): Promise<string> {
  await page.getByRole('button', { name: 'Send a field check' }).click();
  await page.getByRole('button', { name: 'Make a link' }).click();
  return page.getByLabel('Link; it is shown this once').inputValue();
}

/** The link as it is opened through a simulated line, by the number of the line. */
export function through(url: string, line: 1 | 2 | 3): string {
  const address = new URL(url);
  address.port = String(Number(address.port) + line);
  return address.href;
}

/** Opens a link in a browser of its own and runs the whole check there. */
export async function runCheck(browser: Browser, url: string): Promise<void> {
  const context = await browser.newContext();
  const page = await context.newPage();
  await page.goto(url);
  await page.getByRole('button', { name: 'Start the check' }).click();
  await expect(page.getByRole('button', { name: 'Check again' })).toBeVisible({ timeout: 60_000 });
  await context.close();
}

interface Figures {
  roundTrips?: { medianMs: number; samples: number };
  downMbps?: number;
  upMbps?: number;
  datagrams?: { passes: boolean; sent?: number; lost?: number };
  screens?: { widthPx: number }[];
  scene?: { drawnBy: string };
  browser?: object;
}
interface Measured {
  at: string;
  vantage: string;
  endpoint?: string;
  figures: Figures;
}
/** What a crossing rests on, as the page's own session reads it; the instant it was read is left out. */
export const restsOn = (page: Page, id: string): Promise<{ measurements: Measured[] }> =>
  page.evaluate(async (crossing) => {
    const answer = (await (await fetch(`/api/crossings/${encodeURIComponent(crossing)}/slice`)).json()) as { slice: { measurements: [] } };
    return { ...answer.slice, atMs: 0 };
  }, id);
/** What was measured at the desk of a crossing's endpoint, the newest of each. */
export async function measuredOf(page: Page, id: string): Promise<Figures> {
  const own = (await restsOn(page, id)).measurements.filter(({ endpoint, vantage }) => endpoint === id.split('~')[1] && vantage === 'desk');
  return Object.assign({}, ...own.sort((a, b) => a.at.localeCompare(b.at)).map(({ figures }) => figures)) as Figures;
}

/** Chooses an object in a field that finds by name. */
export async function pick(page: Page, label: string, text: string): Promise<void> {
  const field = page.getByRole('combobox', { name: label, exact: true });
  await field.fill(text);
  await page.getByRole('listbox', { name: 'Choices' }).getByRole('option').filter({ hasText: text }).first().click();
}
