import type {
  Endpoint,
  Gateway,
  Host,
  Line,
  Location,
  OpenSession,
  Organisation,
  Peripheral,
  Person,
  Pool,
  Portal,
  Publication,
  Region,
  RequirementSet,
  Resource,
  UsbRule,
} from '@underpass/contracts';
import type { Assumed } from '../assumed/index.js';
import type { Evidence, SignonTimes, Taken } from '../evidence/index.js';
import type { CrossingRef } from '../estate/index.js';
import { resolveSettings, type SettingIndex, type SettingSubject, type SettingValues } from '../settings/index.js';
import type { FactsReader } from './factsFor.js';

/** A session on another endpoint, with the name of what is open in it. */
export type SessionElsewhere = OpenSession & { resourceName: string };

/** What the other people on a shared line ask of it, while active. */
export interface OtherDemand {
  count: number;
  activeShare: number;
  /** The interval of the share, where nobody typed it. */
  activeLow: number;
  activeHigh: number;
  meanMbps: number;
  sdMbps: number;
  /** What they send: voice, camera, input. */
  upMeanMbps: number;
  upSdMbps: number;
}

/** Everything the evaluation of one crossing looks at. Parts are shared between crossings and never changed. */
export interface CrossingFacts {
  ref: CrossingRef;
  /** Where they were read: what would be after a change is read there too. */
  reader: FactsReader;
  person: Person;
  endpoint: Endpoint;
  location: Location;
  /** The line in use: the endpoint's own or the location's. */
  line: Line;
  resource: Resource;
  /** How many resources the person may choose from. */
  resources: number;
  /** Desktops among them. */
  desktops: readonly string[];
  /** A group of the person holds a publication of the resource. */
  entitled: boolean;
  /** The publication that gives it, and the portal it is found at; none where it is attached to none. */
  publication: Publication | undefined;
  portal: Portal | undefined;
  /** Sessions of the person on other endpoints. */
  elsewhere: readonly SessionElsewhere[];
  /** Requirement sets without which people do not get in. */
  gates: readonly RequirementSet[];
  /** What is plugged in at the endpoint, in full. */
  devices: readonly Peripheral[];
  /** The rules of what becomes of devices, in the order they are looked at. */
  rules: readonly UsbRule[];
  pool: Pool;
  hosts: readonly Host[];
  gateway: Gateway;
  gatewayRegion: Region;
  /** Every gateway and region of the estate, for the nearest ones. */
  estate: {
    gateways: readonly Gateway[];
    portals: readonly Portal[];
    regions: ReadonlyMap<string, Region>;
    organisation: Organisation;
    /** What is assumed where nothing is known. */
    assumed: Assumed;
  };
  subject: SettingSubject;
  settings: SettingIndex;
  /** The settings in force, where they were resolved already. */
  resolved: SettingValues | undefined;
  evidence: Evidence;
  /** Steps of the sign-on that were timed. */
  timed: Taken<SignonTimes> | undefined;
  others: OtherDemand;
  /** The person has a session of this resource, here or elsewhere: it holds its place already. */
  hasSession: boolean;
  /** The instant the evaluation is for, ms since 1970. */
  atMs: number;
  /** What they were read like: nothing but settings and what is supposed of lines is other here. */
  like?: CrossingFacts | undefined;
  /** The hour of the day there that it is for, 0 to 23; without one the hour of the working day in which the line gives least. */
  hour?: number | undefined;
}

/** The settings in force for a crossing. */
export const settingsOf = (facts: CrossingFacts): SettingValues => facts.resolved ?? resolveSettings(facts.settings, facts.subject);
