import { resolveSettings, settingPlace, type SettingIndex, type SettingSubject, type SettingValues } from '../settings/index.js';
import { remembered } from './chosen.js';

// remembered with the entries they were resolved from
const settled = new WeakMap<SettingIndex, Map<string, SettingValues>>();

/** Whoever has a setting of their own. */
interface Own {
  people: ReadonlySet<string>;
  endpoints: ReadonlySet<string>;
}
const own = new WeakMap<SettingIndex, Own>();
/** After so many questions it is worth going through the places, instead of looking two of them up each time. */
const few = 100;

const ownOf = (settings: SettingIndex): Own =>
  remembered(own, settings, () => {
    const [people, endpoints] = [new Set<string>(), new Set<string>()];
    for (const [entry] of settings.values()) {
      if (entry?.layer === 'person') people.add(entry.target);
      else if (entry?.layer === 'endpoint') endpoints.add(entry.target);
    }
    return { people, endpoints };
  });

/** Settings in force, resolved once for all whom no entry tells apart. */
export class Resolved {
  private readonly settled: Map<string, SettingValues>;
  private asked = 0;
  private own: Own | null = null;
  private last: { subject: SettingSubject; values: SettingValues } | null = null;

  /** @param settings the entries by the place they stand at */
  constructor(private readonly settings: SettingIndex) {
    this.settled = remembered(settled, settings, () => new Map<string, SettingValues>());
  }

  /** The settings in force for somebody at an endpoint. */
  of(subject: SettingSubject): SettingValues {
    const { settings, last } = this;
    if (!this.own && ++this.asked > few) this.own = ownOf(settings);
    const { own: known } = this;
    const ownPerson = known ? known.people.has(subject.person) : settings.has(settingPlace('person', subject.person));
    const ownEndpoint = known ? known.endpoints.has(subject.endpoint) : settings.has(settingPlace('endpoint', subject.endpoint));
    const isOwn = ownPerson || ownEndpoint;
    if (last && !isOwn && alike(last.subject, subject)) return last.values;
    const names = `${ownPerson ? subject.person : ''}|${ownEndpoint ? subject.endpoint : ''}`;
    const key = `${names}|${subject.deviceClass}|${subject.location}|${subject.groups.join(',')}|${subject.ownership}|${subject.lineKind}|${subject.metered}|${subject.clientKind}|${subject.guest}|${subject.inside}`;
    const values = remembered(this.settled, key, () => resolveSettings(settings, subject));
    if (!isOwn) this.last = { subject, values };
    return values;
  }
}

/** Whether nothing but a setting of a person's or an endpoint's own could tell two subjects apart. */
const alike = (a: SettingSubject, b: SettingSubject): boolean =>
  a.groups === b.groups &&
  a.location === b.location &&
  a.deviceClass === b.deviceClass &&
  a.clientKind === b.clientKind &&
  a.ownership === b.ownership &&
  a.lineKind === b.lineKind &&
  a.metered === b.metered &&
  a.guest === b.guest &&
  a.inside === b.inside;
