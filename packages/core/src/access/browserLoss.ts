import { compareVersions } from '../settings/index.js';
import { browserDataVersion, browserNames, browserSupport, currentReleases } from './browserSupport.js';

/** Browsers of the open compatibility data, each with its current release. */
export const knownBrowsers = Object.entries(browserNames).map(([id, name]) => ({ id, name, current: currentReleases[id] ?? '' }));
/** Where what is said of browsers comes from, with its version. */
export const browserDataSource = `open browser-compatibility data ${browserDataVersion}`;

/** The browser of the data that a measured name and version belong to; null where none fits. Names as browsers give them: common practice, no source. */
export function measuredBrowser(kind: string, version: string, touch: boolean): { browser: string; name: string; version: string } | null {
  const word = /edge|firefox|safari|chrom/.exec(kind.toLowerCase())?.[0];
  const number = /^\d+(\.\d+)?/.exec(version)?.[0];
  if (word === undefined || number === undefined) return null;
  const base = word === 'chrom' ? 'chrome' : word;
  const mobile = base === 'safari' ? 'safari_ios' : `${base}_android`;
  const browser = touch && Object.hasOwn(browserNames, mobile) ? mobile : base;
  return { browser, name: browserNames[browser] ?? browser, version: number };
}

/** Whether a browser has something that a native client brings. Source: the open compatibility data of `browserSupport`. */
export interface BrowserFeature {
  feature: string;
  support: 'yes' | 'partly' | 'no';
  /** First version that has it, where this one has not. */
  from: string | null;
}

/**
 * What a browser in a version has of the things a native client brings, without a flag being set.
 * @returns null where the data does not know the browser
 */
export function browserFeatures(browser: string, version: string): BrowserFeature[] | null {
  if (!Object.hasOwn(browserNames, browser)) return null;
  return Object.entries(browserSupport).map(([feature, browsers]) => {
    const spans = browsers[browser] ?? [];
    const holding = spans.filter(
      ([from, until]) => compareVersions(version, from) >= 0 && (until === null || compareVersions(version, until) < 0),
    );
    const whole = holding.some((span) => span[2] !== 'partly');
    const later = spans
      .filter((span) => span[2] !== 'partly' && compareVersions(span[0], version) > 0)
      .sort((a, b) => compareVersions(a[0], b[0]))[0];
    return { feature, support: whole ? 'yes' : holding.length ? 'partly' : 'no', from: whole ? null : (later?.[0] ?? null) };
  });
}

/** What is lost in the browser compared with the native client. */
export const lostInBrowser = (browser: string, version: string): BrowserFeature[] =>
  (browserFeatures(browser, version) ?? []).filter(({ support }) => support !== 'yes');
