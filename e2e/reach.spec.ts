import { expect, test } from '@playwright/test';
import { crossingPath, makeLink, signIn } from './pages/app.js';
import { faultsOf, watched } from './pages/faults.js';

const blocked = crossingPath('P290', 'MV-008', 'crew-log');
const limited = crossingPath('P136', 'WEX-TC-020', 'timetable');
const vessel = crossingPath('P300', 'MV-013', 'documents');
const admin = 'admin@saltmarsh.example';

/** Every screen there is, by its address. */
const routes = [
  '/board',
  '/crossings',
  '/crossings?by=finding',
  blocked,
  `${blocked}?q=open`,
  limited,
  vessel,
  `${crossingPath('P005', 'HO-005', 'timetable')}?q=usable`,
  `${crossingPath('P380', 'OS-002', 'guest-plans')}?q=open`,
  '/access',
  '/access/people/P100',
  '/access/people/P081?why=safety',
  '/access/publications',
  '/access/publications?resource=counter',
  '/access/requirements',
  '/access/guests',
  '/access/acceptance',
  '/access/links',
  '/access/sign-on',
  '/estate',
  '/estate/endpoint',
  '/estate/endpoint/new',
  '/estate/setting/new',
  '/estate/resource/new',
  '/estate/publication/new',
  '/estate/location/wexcombe',
  '/estate/assumed',
  '/estate/import',
  '/estate/list',
  '/estate/gaps',
  '/estate/sources',
  '/estate/devices',
  '/check-one',
  '/estate/changes',
  '/estate/configFile/MAR-TC-020',
  '/bringup',
  '/bringup/all/firmware',
  '/bringup/all/desk/HO-013',
  '/bringup/all/images?device=GUL-K02',
  '/bringup/all/cost',
  '/bringup/all/telephone/MAR-TC-019',
  '/bringup/all/recipes',
  '/bringup/marram-point',
  '/bringup/marram-point/arriving',
  '/bringup/marram-point/transfer',
  '/bringup/marram-point/joining',
  '/settings?endpoint=WEX-TC-020&key=security.secondFactorTimeoutS',
  '/settings/checks',
  '/settings/drafts',
  `/settings/redirection?crossing=${encodeURIComponent('P338~CD-006~call-desktop')}`,
  '/settings/carried',
  `/settings/compare?a=${encodeURIComponent('P337~CD-005~call-desktop')}&b=${encodeURIComponent('P338~CD-006~call-desktop')}`,
  '/estate/measurements',
  '/account',
  '/sign-ins',
  '/sign-ins/log',
  '/nowhere',
];

/** What there is for somebody who is not signed in. */
const outside = ['/board', '/check/no-such-link'];

const narrow = { width: 320, height: 640 };
const usual = { width: 1280, height: 800 };
test('every screen is within reach of everybody, at 320 and at 1280 px, light and dark', async ({ browser }) => {
  test.setTimeout(480_000);
  const context = await watched(await browser.newContext({ colorScheme: 'light', viewport: narrow }));
  const page = await context.newPage();
  const told: string[] = [];
  const look = async (route: string) => {
    await page.setViewportSize(narrow);
    await page.goto(route);
    await expect(page.locator('h1').first()).toBeVisible();
    await expect(page.getByText('·····')).toHaveCount(0);
    for (const fault of await faultsOf(page, 'width')) told.push(`${route}, 320 px: ${fault}`);
    await page.setViewportSize(usual);
    for (const fault of await faultsOf(page)) told.push(`${route}, light: ${fault}`);
    // of the same view in the dark the colours alone are others
    await page.evaluate(() => (document.documentElement.dataset.theme = 'dark'));
    for (const fault of await faultsOf(page, 'colours')) told.push(`${route}, dark: ${fault}`);
  };
  for (const route of outside) await look(route);
  await signIn(page, admin);
  for (const route of routes) await look(route);
  expect(told).toEqual([]);
  await context.close();
});

test('the field check speaks six languages, and what it says fits at 360 px', async ({ page, browser }) => {
  await signIn(page, undefined, crossingPath('P136', 'WEX-TC-020', 'timetable'));
  const url = await makeLink(page);
  const told = new Set<string>();
  const asked: string[] = [];
  for (const language of ['en', 'de', 'fr', 'es', 'nl', 'pl']) {
    // by the browser's language, and by what the link names
    const context = await watched(await browser.newContext({ locale: language, viewport: { width: 360, height: 740 } }));
    const person = await context.newPage();
    person.on('request', (request) => asked.push(new URL(request.url()).pathname));
    for (const address of [url, `${url}?lang=${language === 'en' ? 'de' : language}`]) {
      await person.goto(address);
      const button = person.getByRole('button').first();
      await expect(button).toBeVisible();
      const spoken = address === url ? language : language === 'en' ? 'de' : language;
      await expect(person.locator('html')).toHaveAttribute('lang', spoken);
      if (language === 'pl') expect(await faultsOf(person)).toEqual([]);
      expect(await person.evaluate(() => document.documentElement.scrollWidth)).toBe(360);
      const cut = await person.evaluate(() =>
        [...document.querySelectorAll('main *')]
          .filter(
            (element) =>
              element.clientWidth > 0 && element.scrollWidth > element.clientWidth + 1 && !['svg', 'SELECT'].includes(element.tagName),
          )
          .map((element) => `${element.tagName} ${element.textContent?.slice(0, 40)}`),
      );
      expect([language, cut]).toEqual([language, []]);
    }
    await person.goto(url);
    told.add((await person.locator('h1').textContent()) ?? '');
    await context.close();
  }
  expect(told.size).toBe(6);
  // nobody who only has a link is asked who they are
  expect(asked.filter((path) => path.startsWith('/api/session'))).toEqual([]);
});
