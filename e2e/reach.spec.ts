import { AxeBuilder } from '@axe-core/playwright';
import { expect, test, type Page } from '@playwright/test';
import { crossingPath, signIn } from './pages/app.js';

const blocked = crossingPath('P290', 'MV-008', 'crew-log');
const admin = 'admin@saltmarsh.example';

/** Every screen there is, by its address. */
const routes = [
  '/board',
  '/crossings',
  '/crossings?by=finding',
  blocked,
  `${blocked}?q=open`,
  '/access',
  '/access/people/P100',
  '/access/publications',
  '/access/requirements',
  '/access/guests',
  '/access/acceptance',
  '/access/links',
  '/access/sign-on',
  '/estate/endpoint',
  '/estate/endpoint/new',
  '/estate/location/wexcombe',
  '/estate/assumed',
  '/estate/import',
  '/estate/changes',
  '/estate/measurements',
  '/account',
  '/sign-ins',
  '/sign-ins/log',
  '/nowhere',
];

/** What a view is not: sideways scrolling of the page, or what axe finds by the rules of WCAG 2.2 A and AA. */
async function faultsOf(page: Page): Promise<string[]> {
  const { violations } = await new AxeBuilder({ page })
    .withTags(['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa', 'wcag22a', 'wcag22aa'])
    .analyze();
  const wide = await page.evaluate(() => document.documentElement.scrollWidth - document.documentElement.clientWidth);
  return [
    ...violations.map(
      ({ id, nodes }) =>
        `${id}: ${nodes
          .slice(0, 3)
          .map(({ target }) => target.join(' '))
          .join(' | ')}`,
    ),
    ...(wide > 0 ? [`scrolls sideways by ${wide} px`] : []),
  ];
}

for (const width of [1280, 320])
  for (const colorScheme of ['light', 'dark'] as const)
    test(`every screen is within reach of everybody, ${width} px, ${colorScheme}`, async ({ browser }) => {
      test.setTimeout(240_000);
      const page = await (await browser.newContext({ colorScheme, viewport: { width, height: width === 320 ? 640 : 800 } })).newPage();
      await signIn(page, admin);
      const told: string[] = [];
      for (const route of routes) {
        await page.goto(route);
        await expect(page.locator('h1').first()).toBeVisible();
        await expect(page.getByText('·····')).toHaveCount(0);
        for (const fault of await faultsOf(page)) told.push(`${route}: ${fault}`);
      }
      expect(told).toEqual([]);
      await page.context().close();
    });
