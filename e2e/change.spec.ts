import { expect, test } from '@playwright/test';
import { crossingPath, restsOn, signIn } from './pages/app.js';

const id = 'P137~WEX-TC-021~timetable';
const path = crossingPath('P137', 'WEX-TC-021', 'timetable');

test('a change goes along in a link, is tried there, and any past change is taken back while nothing rests on it', async ({
  page,
  context,
}) => {
  await context.grantPermissions(['clipboard-read', 'clipboard-write']);
  await signIn(page, undefined, path);
  const rested = await restsOn(page, id);
  await page.getByRole('radiogroup', { name: 'Frame rate' }).getByRole('radio', { name: '15', exact: true }).click();
  await expect(page.getByRole('columnheader', { name: /after/ })).toBeVisible();
  await page.getByRole('button', { name: 'Copy a link' }).click();
  await expect(page.getByText(/The link is copied/)).toBeVisible();
  const link = await page.evaluate(() => navigator.clipboard.readText());
  const other = await context.newPage();
  await other.goto(link);
  await expect(other.getByText(/^Trying: Frame rate 15 at/)).toBeVisible();
  await expect(other.getByRole('columnheader', { name: /after/ })).toBeVisible();
  await other.close();

  // applied here, then something else: the earlier one can still be taken back
  await page.getByRole('button', { name: 'Apply', exact: true }).click();
  await expect(page.getByText(/^Applied: /)).toBeVisible();
  const answer = await page.evaluate(async () => {
    const change = { patches: [{ do: 'change', kind: 'host', id: 'SM-H04', set: { name: 'Fulmar again' } }], hypotheses: [] };
    const headers = { 'content-type': 'application/json', 'x-underpass': '1' };
    return (await fetch('/api/changes', { method: 'POST', headers, body: JSON.stringify({ change, summary: 'Another name for a host' }) }))
      .status;
  });
  expect(answer).toBe(201);
  await page.goto('/estate/changes');
  const entry = page.getByRole('listitem').filter({ hasText: 'Frame rate 15 at' }).first();
  await entry.getByRole('button', { name: 'Take it back' }).click();
  await expect(page.getByRole('status').getByText(/^Taken back: Frame rate/)).toBeVisible();
  expect((await restsOn(page, id)).measurements).toEqual(rested.measurements);
  await page
    .getByRole('listitem')
    .filter({ hasText: 'Another name for a host' })
    .first()
    .getByRole('button', { name: 'Take it back' })
    .click();
  await expect(page.getByRole('status').getByText(/^Taken back: Another/)).toBeVisible();
  expect(await restsOn(page, id)).toEqual(rested);
});

test('a link that holds no good change shows the crossing as it is, and says so', async ({ page }) => {
  await signIn(page, undefined, path);
  const encoded = (value: unknown) => Buffer.from(JSON.stringify(value)).toString('base64url');
  for (const sent of [
    encoded({ patches: [null], hypotheses: [] }),
    encoded({ patches: [{ do: 'change', kind: 'host', id: 'SM-H03', set: { 'a.b.c.d.e.f.g.h.i.j.k': 1 } }, 7], hypotheses: [] }),
    encoded({ patches: [], hypotheses: [{ suppose: 'line' }] }),
    'nonsense!',
  ]) {
    await page.goto(`${path}?change=${encodeURIComponent(sent)}&named=Something`);
    await expect(page.getByText(/This link holds no change that this version knows/)).toBeVisible();
    await expect(page.getByRole('button', { name: 'Send a field check' })).toBeVisible();
    await expect(page).toHaveURL((url) => !url.search.includes('change'));
    await expect(page.getByText(/^Trying:/)).toHaveCount(0);
  }
});

test('a draft that somebody wrote past says so where it is opened', async ({ page }) => {
  await signIn(page, undefined, path);
  const call = (route: string, body: object) =>
    page.evaluate(
      async ([to, text]) => {
        const headers = { 'content-type': 'application/json', 'x-underpass': '1' };
        return (await (await fetch(`/api/${to}`, { method: 'POST', headers, body: text! })).json()) as { id?: string; changeId?: string };
      },
      [route, JSON.stringify(body)] as const,
    );
  const drawing = (drawMs: number) => ({ patches: [{ do: 'change', kind: 'host', id: 'SM-H03', set: { drawMs } }] });
  const { id: draft } = await call('drafts', { name: 'Draw in 9 ms', change: drawing(9), crossing: id });
  const { changeId } = await call('changes', { change: drawing(55), summary: 'Slower meanwhile' });
  await page.goto('/estate/changes');
  await expect(page.getByText(/Changed since: Host SM-H03: drawMs/)).toBeVisible();
  await page.getByRole('link', { name: 'Draw in 9 ms' }).click();
  await expect(page.getByText(/Applying it writes over that/)).toBeVisible();
  await expect(page.getByText(/drawMs was .* and is 55 now/)).toBeVisible();
  // what is chosen after it was opened stays, whatever others do meanwhile
  await page.getByRole('radio', { name: '15', exact: true }).click();
  await expect(page.getByRole('radio', { name: '15', exact: true })).toBeChecked();
  const { changeId: again } = await call('changes', { change: drawing(56), summary: 'Slower again' });
  // the drafts are told anew, this one with another conflict
  await page.getByRole('button', { name: 'Keep as draft' }).click();
  await expect(page.getByText(/is 56 now/)).toBeVisible();
  await expect(page.getByRole('radio', { name: '15', exact: true })).toBeChecked();
  await call(`changes/${again}/undo`, {});
  // requirement sets and acceptance can be shown as they would be with it
  await page.goto('/access/requirements');
  await page.getByLabel('Show it').selectOption({ label: 'with the draft: Draw in 9 ms' });
  await expect(page.getByText('On paper, with “Draw in 9 ms”. Nothing is applied.')).toBeVisible();
  await expect(page.getByText('the same as it is').first()).toBeVisible();
  await page.goto(`/access/acceptance?draft=${draft}`);
  await expect(page.getByText(/On paper, with/)).toBeVisible();
  await expect(page.getByRole('heading', { name: 'Kinds of person' })).toBeVisible();
  await expect(page.getByRole('button', { name: 'Start a run' })).toHaveCount(0);
  await call(`changes/${changeId}/undo`, {});
  await page.evaluate((draftId) => fetch(`/api/drafts/${draftId}`, { method: 'DELETE', headers: { 'x-underpass': '1' } }), draft!);
});
