import { describe, expect, test } from '@jest/globals';
import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import { browserSupport } from './browserSupport.js';
import {
  browserFeatures,
  measuredBrowser,
  codeSize,
  entryPath,
  knownBrowsers,
  largestOnSheetMm,
  lostInBrowser,
  sheet,
  sheetLayout,
} from './index.js';

interface Statement {
  version_added: string | false | null;
  version_removed?: string | false;
  flags?: object[];
  partial_implementation?: boolean;
  alternative_name?: string;
}
// @mdn/browser-compat-data (CC0), read here in its own form, as the package documents it
const data = JSON.parse(readFileSync(createRequire(import.meta.url).resolve('@mdn/browser-compat-data'), 'utf8')) as Record<string, never>;
const paths: Record<string, string[]> = {
  'second screen': ['api', 'Window', 'getScreenDetails'],
  'USB devices': ['api', 'USB'],
  'input devices': ['api', 'HID'],
  'serial devices': ['api', 'Serial'],
  'local drives': ['api', 'Window', 'showDirectoryPicker'],
  'low-delay decoding': ['api', 'VideoDecoder'],
  'system keys': ['api', 'Keyboard', 'lock'],
  clipboard: ['api', 'Clipboard', 'read'],
  'exact pointer': ['api', 'Element', 'requestPointerLock', 'options_unadjustedMovement_parameter'],
  datagrams: ['api', 'WebTransport'],
  'direct media': ['api', 'RTCPeerConnection'],
};

/** Releases of a browser by their dates; the keys themselves are numbers to the engine and would come in its own order. */
const releases = (browser: string): string[] =>
  Object.entries(
    (data as unknown as { browsers: Record<string, { releases: Record<string, { release_date?: string }> }> }).browsers[browser]!.releases,
  )
    .filter(([, { release_date }]) => release_date)
    .sort((x, y) => (x[1].release_date! < y[1].release_date! ? -1 : 1))
    .map(([version]) => version);

/** Whether the data says yes for a release, found by place in the list of releases and not by comparing numbers. */
function says(feature: string, browser: string, release: string): 'yes' | 'partly' | 'no' {
  const list = releases(browser);
  const node = paths[feature]!.reduce<Record<string, unknown>>((at, part) => at[part] as Record<string, unknown>, data);
  const support = (node.__compat as { support: Record<string, Statement | Statement[]> }).support[browser];
  const place = (version: string) => list.indexOf(version.replace('≤', ''));
  let best: 'yes' | 'partly' | 'no' = 'no';
  for (const each of [support ?? []].flat()) {
    if (typeof each.version_added !== 'string' || each.version_added === 'preview' || each.flags || each.alternative_name) continue;
    if (place(release) < place(each.version_added)) continue;
    if (typeof each.version_removed === 'string' && place(release) >= place(each.version_removed)) continue;
    if (!each.partial_implementation) return 'yes';
    best = 'partly';
  }
  return best;
}

describe('what the browser client lacks', () => {
  test('is what the open compatibility data says, for every browser and release', () => {
    expect(Object.keys(browserSupport)).toEqual(Object.keys(paths));
    let asked = 0;
    for (const { id } of knownBrowsers)
      for (const release of releases(id))
        for (const { feature, support, from } of browserFeatures(id, release)!) {
          expect([id, release, feature, support]).toEqual([id, release, feature, says(feature, id, release)]);
          if (from) expect(says(feature, id, from)).toBe('yes');
          asked++;
        }
    expect(asked).toBeGreaterThan(3000);
  });

  test('an unknown browser has no answer, and what is lost is what is not there whole', () => {
    expect(browserFeatures('lynx', '2')).toBeNull();
    for (const { feature } of lostInBrowser('safari', '17')) expect(says(feature, 'safari', '17')).not.toBe('yes');
  });
});

test('a measured browser is found in the data by its name, its version and whether it is held in the hand', () => {
  const found = (kind: string, version: string, touch = false) => measuredBrowser(kind, version, touch)?.browser ?? null;
  expect([found('Chromium', '156.0.8078.79'), found('Chrome', '157', true), found('Edge', '157.0')]).toEqual([
    'chrome',
    'chrome_android',
    'edge',
  ]);
  expect([found('Safari', '18.2', true), found('Firefox', '140.0'), found('Firefox', '140.0', true)]).toEqual([
    'safari_ios',
    'firefox',
    'firefox_android',
  ]);
  expect([found('Something', '3'), found('Chrome', 'new')]).toEqual([null, null]);
  expect(measuredBrowser('Chromium', '156.0.8078.79', false)?.version).toBe('156.0');
});

describe('codes on paper', () => {
  test('are a tenth of the reading distance, and never finer than printers and cameras agree on', () => {
    expect(codeSize(1, 25)).toMatchObject({ sizeMm: 100, moduleMm: 4, wholeMm: 132, distanceM: 1 });
    expect(codeSize(0.1, 41)).toMatchObject({ moduleMm: expect.closeTo(0.4), sizeMm: expect.closeTo(16.4) });
  });

  test('lie on the page within its margins and never on each other', () => {
    for (const wholeMm of [20, 45, 80, 130, largestOnSheetMm])
      for (const count of [1, 7, 40]) {
        const cells = sheetLayout(count, wholeMm);
        expect(cells).toHaveLength(count);
        for (const [i, cell] of cells.entries()) {
          expect(cell.xMm).toBeGreaterThanOrEqual(sheet.marginMm);
          expect(cell.xMm + wholeMm).toBeLessThanOrEqual(sheet.widthMm - sheet.marginMm + 1e-9);
          expect(cell.yMm + wholeMm).toBeLessThanOrEqual(sheet.heightMm - sheet.marginMm);
          for (const other of cells.slice(i + 1))
            if (other.page === cell.page)
              expect(Math.abs(cell.xMm - other.xMm) >= wholeMm || Math.abs(cell.yMm - other.yMm) >= wholeMm).toBe(true);
        }
      }
  });

  test('lead to a publication and a resource, and carry nothing else', () => {
    expect(entryPath('yard-apps', 'workshop')).toBe('/open/yard-apps/workshop');
  });
});

test('the table of browser support is the one the script writes', async () => {
  const { tableText, target } = (await import('../../../../scripts/write-browser-support.mjs' as string)) as {
    tableText: () => string;
    target: URL;
  };
  expect(readFileSync(target, 'utf8')).toBe(tableText());
});
