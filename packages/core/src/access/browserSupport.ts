// Written by scripts/write-browser-support.mjs from @mdn/browser-compat-data 8.1.9 (CC0). Do not edit.
/* prettier-ignore */
/** Browsers as they are told, by their word in the table. */
export const browserNames: Readonly<Record<string, string>> = {"chrome":"Chrome","edge":"Edge","firefox":"Firefox","safari":"Safari","chrome_android":"Chrome Android","firefox_android":"Firefox for Android","safari_ios":"Safari on iOS"};
/* prettier-ignore */
/** Current release of each browser when the data was published. */
export const currentReleases: Readonly<Record<string, string>> = {"chrome":"157","edge":"157","firefox":"160","safari":"27.2","chrome_android":"157","firefox_android":"160","safari_ios":"27.2"};
/** Version of the open compatibility data the table was written from. */
export const browserDataVersion = '8.1.9';
/** Versions that have a feature: from the first up to, not with, the second; null where it still has it. */
export type Span = readonly [from: string, until: string | null, partly?: 'partly'];
/* prettier-ignore */
/** Which versions of each browser have a feature, by its name. */
export const browserSupport: Readonly<Record<string, Readonly<Record<string, readonly Span[]>>>> = {
 "second screen": {
  "chrome": [["100",null]],
  "edge": [["100",null]],
  "firefox": [],
  "safari": [],
  "chrome_android": [["100",null]],
  "firefox_android": [],
  "safari_ios": []
 },
 "USB devices": {
  "chrome": [["61",null]],
  "edge": [["79",null]],
  "firefox": [],
  "safari": [],
  "chrome_android": [["61",null]],
  "firefox_android": [],
  "safari_ios": []
 },
 "input devices": {
  "chrome": [["89",null]],
  "edge": [["89",null]],
  "firefox": [],
  "safari": [],
  "chrome_android": [],
  "firefox_android": [],
  "safari_ios": []
 },
 "serial devices": {
  "chrome": [["89",null]],
  "edge": [["89",null]],
  "firefox": [["151",null]],
  "safari": [],
  "chrome_android": [["148",null],["138","148",'partly']],
  "firefox_android": [],
  "safari_ios": []
 },
 "local drives": {
  "chrome": [["86",null]],
  "edge": [["86",null]],
  "firefox": [],
  "safari": [],
  "chrome_android": [["132",null]],
  "firefox_android": [],
  "safari_ios": []
 },
 "low-delay decoding": {
  "chrome": [["94",null]],
  "edge": [["94",null]],
  "firefox": [["130",null]],
  "safari": [["16.4",null]],
  "chrome_android": [["94",null]],
  "firefox_android": [],
  "safari_ios": [["16.4",null]]
 },
 "system keys": {
  "chrome": [["68",null]],
  "edge": [["79",null]],
  "firefox": [],
  "safari": [],
  "chrome_android": [["68",null]],
  "firefox_android": [],
  "safari_ios": []
 },
 "clipboard": {
  "chrome": [["76",null]],
  "edge": [["79",null]],
  "firefox": [["127",null]],
  "safari": [["13.1",null]],
  "chrome_android": [["76",null]],
  "firefox_android": [["127",null]],
  "safari_ios": [["13.4",null]]
 },
 "exact pointer": {
  "chrome": [["88",null]],
  "edge": [["88",null]],
  "firefox": [["152",null]],
  "safari": [["18.4",null]],
  "chrome_android": [["144",null]],
  "firefox_android": [],
  "safari_ios": []
 },
 "datagrams": {
  "chrome": [["97",null]],
  "edge": [["97",null]],
  "firefox": [["114",null]],
  "safari": [["26.4",null]],
  "chrome_android": [["97",null]],
  "firefox_android": [["114",null]],
  "safari_ios": [["26.4",null]]
 },
 "direct media": {
  "chrome": [["56",null],["23",null]],
  "edge": [["15",null],["15",null]],
  "firefox": [["44",null],["22",null]],
  "safari": [["11",null]],
  "chrome_android": [["56",null],["25",null]],
  "firefox_android": [["44",null],["24",null]],
  "safari_ios": [["11",null]]
 }
} as never;
