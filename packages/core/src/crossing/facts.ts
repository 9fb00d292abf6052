import type { Endpoint, Gateway, Host, Line, Location, Organisation, Person, Pool, Region, Resource } from '@underpass/contracts';
import type { Evidence } from '../evidence/index.js';
import { resolveSettings, type SettingIndex, type SettingSubject, type SettingValues } from '../settings/index.js';

/** What the other people on a shared line ask of it, while active. */
export interface OtherDemand {
  count: number;
  activeShare: number;
  meanMbps: number;
  sdMbps: number;
}

/**
 * Everything the evaluation of one crossing looks at. Parts are shared between crossings and never changed; a change on paper
 * makes a new object (see change.ts).
 */
export interface CrossingFacts {
  person: Person;
  endpoint: Endpoint;
  location: Location;
  /** The line in use: the endpoint's own or the location's. */
  line: Line;
  resource: Resource;
  /** How many resources the person may choose from. */
  resources: number;
  entitled: boolean;
  pool: Pool;
  hosts: readonly Host[];
  gateway: Gateway;
  gatewayRegion: Region;
  /** Every gateway and region of the estate, for the nearest ones. */
  estate: { gateways: readonly Gateway[]; regions: ReadonlyMap<string, Region>; organisation: Organisation };
  subject: SettingSubject;
  settings: SettingIndex;
  /** The settings in force, where they were resolved already. */
  resolved: SettingValues | undefined;
  evidence: Evidence;
  others: OtherDemand;
  /** The instant the evaluation is for, ms since 1970. */
  atMs: number;
}

/** The settings in force for a crossing. */
export const settingsOf = (facts: CrossingFacts): SettingValues => facts.resolved ?? resolveSettings(facts.settings, facts.subject);
