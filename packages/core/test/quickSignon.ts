import type { SignonFacts } from '../src/signon/index.js';

/** Nothing that takes extra time: what each test adds stands in the test. */
export const quick: SignonFacts = {
  rttMs: 100,
  wired: true,
  browserClient: false,
  thinClient: false,
  alwaysOn: true,
  secondFactor: false,
  preSession: false,
  singleSignOn: true,
  entryLink: true,
  resources: 1,
  startOnly: true,
  hostAsleep: false,
  hostOff: false,
  profileMB: 0,
  profileMbps: 100,
  deliveredMB: 0,
  publishedApp: true,
  firstFrameBytes: 125_000,
  availableMbps: 10,
};
