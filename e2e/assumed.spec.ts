import { expect, test } from '@playwright/test';
import { crossingPath, people, signIn } from './pages/app.js';

const vessel = crossingPath('P300', 'MV-013', 'documents');

test('what is assumed is shown where it decides, is another figure here, and is taken back', async ({ page }) => {
  await signIn(page, undefined, vessel);
  // a fact that is assumed leads to where it is told
  await page.getByRole('link', { name: 'wanted' }).click();
  await expect(page.getByRole('heading', { name: 'What is assumed' })).toBeVisible();
  await page.goBack();
  await expect(page.getByRole('heading', { name: /Over the day/ })).toBeVisible();
  await page.goForward();
  const delay = page.getByLabel('office work: Key to pixel, at most ms');
  await expect(delay).toHaveValue('150');

  // what is wrong is told beneath it, and nothing typed is lost
  const fastest = page.getByLabel('4G: round trip to a near data centre, at least, ms');
  await fastest.fill('fast');
  await expect(page.getByText('must be a number')).toBeVisible();
  await expect(page.getByRole('button', { name: /^Save/ })).toBeDisabled();
  await fastest.fill('90');
  await expect(page.getByText('must not be above 70')).toBeVisible();
  await fastest.fill('45');
  await delay.fill('250');

  // on paper first, then for everybody
  await page.getByRole('button', { name: 'See impact on the estate' }).click();
  await expect(page.getByText(/change their verdict/)).toBeVisible({ timeout: 30_000 });
  await page.getByRole('button', { name: 'Close' }).first().click();
  await page.getByRole('button', { name: 'Save 2 figures' }).click();
  await expect(page.getByText(/^Saved: 2 figures/)).toBeVisible();
  await expect(page.getByRole('button', { name: '4G: as shipped' })).toBeVisible();
  await page.goto(vessel);
  await expect(page.getByText('at most 250').first()).toBeVisible();

  // as shipped again
  await page.goto('/estate/assumed#lines');
  await page.getByRole('button', { name: '4G: as shipped' }).click();
  await page.getByLabel('office work: Key to pixel, at most ms').fill('150');
  await page.getByRole('button', { name: 'Save 2 figures' }).click();
  await expect(page.getByText(/^Saved: 2 figures/)).toBeVisible();
  await page.goto(vessel);
  await expect(page.getByText('at most 150').first()).toBeVisible();
});

test('what somebody else writes of the figures meanwhile is shown and kept, also over a reload', async ({ page }) => {
  await signIn(page, undefined, '/estate/assumed');
  const [delay, frames] = ['Key to pixel, at most ms', 'Frames a second, at least'].map((each) => page.getByLabel(`office work: ${each}`));
  await delay!.fill('250');
  /** Somebody else keeps thresholds of office work; null: as shipped. */
  const write = (office: object | null) =>
    page.evaluate(async (more) => {
      const headers = { 'x-underpass': '1', 'content-type': 'application/json' };
      const wanted = more && { voiceMosAtLeast: 3.5, usableWithinS: 45, ...more };
      const patch = { do: 'change', kind: 'organisation', id: 'organisation', set: { 'thresholds.office': wanted } };
      const body = JSON.stringify({ change: { patches: [patch], hypotheses: [] }, summary: 'Otherwise' });
      const { ok } = await fetch('/api/changes', { method: 'POST', headers, body });
      if (!ok) throw new Error('it was not kept');
    }, office);
  // the page may go in the very turn in which theirs arrive
  await page.evaluate(() => {
    const taken = window.removeEventListener.bind(window);
    window.removeEventListener = (type: string, listener: EventListenerOrEventListenerObject) => {
      taken(type, listener);
      if (type === 'beforeunload') queueMicrotask(() => window.dispatchEvent(new Event('pagehide')));
    };
  });
  await write({ keyToPixelMs: 160, framesAtLeast: 21 });
  const told = page.getByText(/^Somebody else wrote meanwhile: office work: Key to pixel, at most ms is 160 now\. Yours stays/);
  await expect(told).toBeVisible();
  await expect(frames!).toHaveValue('21');
  await expect(page.getByText('1 figure changed, not saved yet')).toBeVisible();
  // what is typed is there again after a reload, and what others wrote in between is no part of it
  await page.goto('/board');
  await write({ keyToPixelMs: 165, framesAtLeast: 22 });
  await page.goto('/estate/assumed');
  await expect(delay!).toHaveValue('250');
  await expect(frames!).toHaveValue('22');
  await expect(page.getByText(/Key to pixel, at most ms is 165 now/)).toBeVisible();
  await page.getByRole('button', { name: 'Save 1 figure' }).click();
  await expect(page.getByText(/^Saved: 1 figure/)).toBeVisible();
  await page.reload();
  await expect(delay!).toHaveValue('250');
  await expect(frames!).toHaveValue('22');
  await write(null);
  await expect(delay!).toHaveValue('150');
});

test('over the day: the hours of a ship, its worst one, and a table that says the same', async ({ page }) => {
  await signIn(page, undefined, vessel);
  await expect(page.getByRole('heading', { name: /Over the day/ })).toContainText('06:00 to 23:00, every day, Europe/London');
  await expect(page.getByText('The verdict is told for 19:00 to 20:00, when the line gives least.')).toBeVisible();
  await page.getByText('Hour by hour').click();
  await expect(page.getByRole('row', { name: /^09:00/ })).toContainText('Clear');
  await expect(page.getByRole('row', { name: /^20:00/ })).toContainText('Unknown');
});

test('a reader sees what is assumed and can type nothing', async ({ page }) => {
  await signIn(page, people.reader, '/estate/assumed');
  await expect(page.getByLabel('office work: Key to pixel, at most ms')).toHaveAttribute('readonly', '');
});
