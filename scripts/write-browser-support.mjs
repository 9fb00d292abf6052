// Takes the few features a browser client needs out of the open browser-compatibility data (package @mdn/browser-compat-data,
// CC0) and writes them as a table for core. Run it again after the package moved on; a test tells when the table is stale.
import { readFileSync, writeFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import { pathToFileURL } from 'node:url';

const require = createRequire(import.meta.url);
export const target = new URL('../packages/core/src/access/browserSupport.ts', import.meta.url);

/** What a native client has and a browser may not: our name, and the path in the data. */
export const features = {
  'second screen': 'api.Window.getScreenDetails',
  'USB devices': 'api.USB',
  'input devices': 'api.HID',
  'serial devices': 'api.Serial',
  'local drives': 'api.Window.showDirectoryPicker',
  'low-delay decoding': 'api.VideoDecoder',
  'system keys': 'api.Keyboard.lock',
  clipboard: 'api.Clipboard.read',
  'exact pointer': 'api.Element.requestPointerLock.options_unadjustedMovement_parameter',
  datagrams: 'api.WebTransport',
  'direct media': 'api.RTCPeerConnection',
};
export const browsers = ['chrome', 'edge', 'firefox', 'safari', 'chrome_android', 'firefox_android', 'safari_ios'];

const version = (text) => (typeof text === 'string' && text !== 'preview' ? text.replace('≤', '') : null);

/** Spans of versions that have a feature without a flag: [from, until or null]. */
function spans(statement) {
  return [statement ?? []]
    .flat()
    .filter((entry) => version(entry.version_added) !== null && !entry.flags && !entry.alternative_name)
    .map((entry) => [version(entry.version_added), version(entry.version_removed), ...(entry.partial_implementation ? ['partly'] : [])]);
}

export function tableText() {
  const data = JSON.parse(readFileSync(require.resolve('@mdn/browser-compat-data'), 'utf8'));
  const at = (path) => path.split('.').reduce((node, part) => node[part], data).__compat.support;
  const support = Object.fromEntries(
    Object.entries(features).map(([name, path]) => [
      name,
      Object.fromEntries(browsers.map((browser) => [browser, spans(at(path)[browser])])),
    ]),
  );
  const names = Object.fromEntries(browsers.map((browser) => [browser, data.browsers[browser].name]));
  const newest = Object.fromEntries(
    browsers.map((browser) => [
      browser,
      Object.entries(data.browsers[browser].releases).find(([, release]) => release.status === 'current')?.[0] ?? '',
    ]),
  );
  return `// Written by scripts/write-browser-support.mjs from @mdn/browser-compat-data ${data.__meta.version} (CC0). Do not edit.
/* prettier-ignore */
/** Browsers as they are told, by their word in the table. */
export const browserNames: Readonly<Record<string, string>> = ${JSON.stringify(names)};
/* prettier-ignore */
/** Current release of each browser when the data was published. */
export const currentReleases: Readonly<Record<string, string>> = ${JSON.stringify(newest)};
/** Version of the open compatibility data the table was written from. */
export const browserDataVersion = '${data.__meta.version}';
/** Versions that have a feature: from the first up to, not with, the second; null where it still has it. */
export type Span = readonly [from: string, until: string | null, partly?: 'partly'];
/* prettier-ignore */
/** Which versions of each browser have a feature, by its name. */
export const browserSupport: Readonly<Record<string, Readonly<Record<string, readonly Span[]>>>> = ${JSON.stringify(support, null, 1)
    .replace(/\n\s{3,}/g, '')
    .replace(/\n\s+\]/g, ']')
    .replace(/"partly"/g, "'partly'")} as never;
`;
}

if (import.meta.url === pathToFileURL(process.argv[1] ?? '').href) writeFileSync(target, tableText());
