// The interface on a processor four times slower: what a hand waits for. Figures are medians or 95th percentiles.
import { chromium } from '@playwright/test';

const slowed = 4;
const percentile = (values, share) => [...values].sort((a, b) => a - b)[Math.min(values.length - 1, Math.floor(values.length * share))];
const ms = (value) => `${Math.round(value)} ms`;

/** Until the next frame is painted after each of some keys, ms. */
async function typed(page, field, text) {
  await field.click();
  await page.evaluate(() => {
    globalThis.painted = [];
    addEventListener(
      'keydown',
      () => {
        const from = performance.now();
        requestAnimationFrame(() => {
          const channel = new MessageChannel();
          channel.port1.onmessage = () => globalThis.painted.push(performance.now() - from);
          channel.port2.postMessage(0);
        });
      },
      { capture: true },
    );
  });
  for (const letter of text) {
    await page.keyboard.press(letter);
    await page.waitForTimeout(60);
  }
  return page.evaluate(() => globalThis.painted);
}

/** From a press until something stands, ms, in the page's own time. */
const until = (page, press, stands) =>
  page.evaluate(
    ([button, what]) =>
      new Promise((resolve) => {
        const target = document.querySelector(button);
        const before = document.querySelector(what)?.textContent;
        const from = performance.now();
        const look = () => {
          const now = document.querySelector(what)?.textContent;
          if (now && now !== before) resolve(performance.now() - from);
          // the same stands there: nothing to be measured
          else if (performance.now() - from > 3000) resolve(null);
          else requestAnimationFrame(look);
        };
        target.click();
        requestAnimationFrame(look);
      }),
    [press, stands],
  );

/**
 * What the interface takes on the estate that the server holds.
 * @param tell takes a name, what was measured, and what is wanted
 */
export async function benchBrowser(origin, tell) {
  const browser = await chromium.launch({ executablePath: '/usr/bin/chromium', args: ['--no-sandbox', '--disable-gpu'] });
  try {
    const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
    await page.addInitScript(() => {
      globalThis.shift = 0;
      new PerformanceObserver((list) => {
        for (const entry of list.getEntries()) if (!entry.hadRecentInput) globalThis.shift += entry.value;
      }).observe({ type: 'layout-shift', buffered: true });
    });
    await page.goto(`${origin}/board`);
    await page.getByLabel('Address').fill('ines.farrow@saltmarsh.example');
    await page.getByLabel('Password').fill('under-the-estuary');
    await page.getByRole('button', { name: 'Sign in' }).click();
    await page.getByRole('link', { name: 'Underpass' }).waitFor();
    const session = await page.context().newCDPSession(page);
    await session.send('Emulation.setCPUThrottlingRate', { rate: slowed });

    await page.goto(`${origin}/estate/endpoint`);
    await page.locator('[data-index="5"]').waitFor();
    const sorts = [];
    for (const head of ['Name', 'Name', 'Version', 'Version', 'Location', 'Location', 'Person', 'Person']) {
      const button = page.getByRole('columnheader').getByRole('button', { name: head });
      await button.evaluate((element) => element.setAttribute('id', 'sorted-now'));
      const took = await until(page, '#sorted-now', '[data-index="0"]');
      if (process.env.BENCH_TELLS) process.stdout.write(`  ${head}: ${Math.round(took ?? -1)}\n`);
      if (took !== null) sorts.push(took);
      await button.evaluate((element) => element.removeAttribute('id'));
      await page.waitForTimeout(400);
    }
    tell(
      'browser, slowed: 50 000 rows sorted by a head, median and longest',
      `${ms(percentile(sorts, 0.5))}, ${ms(Math.max(...sorts))}`,
      'under 300 ms',
    );

    const gap = await page.evaluate(async () => {
      const frame = document.querySelector('[role=table]').parentElement;
      let largest = 0;
      for (let i = 0; i < 40; i++) {
        frame.scrollBy(0, 700);
        await new Promise((resolve) => requestAnimationFrame(() => requestAnimationFrame(resolve)));
        const box = frame.getBoundingClientRect();
        const rows = [...frame.querySelectorAll('[data-index]')].map((row) => row.getBoundingClientRect());
        const bottom = Math.max(...rows.map((row) => row.bottom));
        const isEnd = frame.scrollTop + frame.clientHeight >= frame.scrollHeight - 2;
        if (!isEnd) largest = Math.max(largest, box.bottom - bottom, Math.min(...rows.map((row) => row.top)) - box.top - 30);
      }
      return Math.max(0, Math.round(largest));
    });
    tell('browser, slowed: largest gap while a list is scrolled by 700 px a frame', `${gap} px`, 'none');

    const letters = [];
    for (const [path, label] of [
      ['/estate/endpoint/new', 'Name needed'],
      ['/estate/location/new', 'Name needed'],
      ['/estate/measurements', 'Text'],
      ['/estate/assumed', 'office work: Key to pixel, at most ms'],
      ['/crossings', 'Search'],
      ['/account', 'New'],
    ]) {
      await page.goto(`${origin}${path}`);
      const field = page.getByLabel(label, { exact: true }).first();
      await field.waitFor();
      letters.push(...(await typed(page, field, 'quayside hall')));
    }
    tell('browser, slowed: a typed letter until it is painted, p95 of six forms', ms(percentile(letters, 0.95)), 'under 50 ms');

    await page.goto(`${origin}/board`);
    await page.locator('h1').waitFor();
    // once each, so that no script has to be fetched
    for (const to of ['/crossings', '/access', '/estate', '/board']) {
      await page.locator(`nav a[href="${to}"]`).click();
      await page.waitForTimeout(1500);
    }
    const routes = [];
    for (let i = 0; i < 3; i++)
      for (const to of ['/crossings', '/access', '/estate', '/board']) {
        const took = await until(page, `nav[aria-label="Stages of work"] a[href="${to}"]`, 'h1');
        if (took !== null) routes.push(took);
        await page.waitForTimeout(500);
      }
    tell(
      'browser, slowed: another screen, median and p95',
      `${ms(percentile(routes, 0.5))}, ${ms(percentile(routes, 0.95))}`,
      'under 200 ms',
    );

    let worst = 0;
    for (const path of ['/board', '/crossings', '/estate/endpoint', '/access', '/estate/endpoint/new', '/account']) {
      await page.goto(`${origin}${path}`);
      await page.locator('h1').first().waitFor();
      await page.waitForTimeout(2500);
      const shift = await page.evaluate(() => globalThis.shift);
      if (process.env.BENCH_TELLS) process.stdout.write(`  ${path}: shift ${shift.toFixed(3)}\n`);
      worst = Math.max(worst, shift);
    }
    tell('browser, slowed: largest layout shift of six screens', worst.toFixed(3), 'under 0.05');
  } finally {
    await browser.close();
  }
}
