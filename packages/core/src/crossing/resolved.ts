import { resolveSettings, settingPlace, type SettingIndex, type SettingSubject, type SettingValues } from '../settings/index.js';
import { remembered } from './chosen.js';

// remembered with the entries they were resolved from
const settled = new WeakMap<SettingIndex, Map<string, SettingValues>>();

/** Settings in force, resolved once for all whom no entry tells apart. */
export class Resolved {
  private readonly settled: Map<string, SettingValues>;
  private last: { subject: SettingSubject; values: SettingValues } | null = null;

  /** @param settings the entries by the place they stand at */
  constructor(private readonly settings: SettingIndex) {
    this.settled = remembered(settled, settings, () => new Map<string, SettingValues>());
  }

  /** The settings in force for somebody at an endpoint. */
  of(subject: SettingSubject): SettingValues {
    const { settings, last } = this;
    const ownPerson = settings.has(settingPlace('person', subject.person));
    const ownEndpoint = settings.has(settingPlace('endpoint', subject.endpoint));
    const isOwn = ownPerson || ownEndpoint;
    if (last && !isOwn && alike(last.subject, subject)) return last.values;
    const own = `${ownPerson ? subject.person : ''}|${ownEndpoint ? subject.endpoint : ''}`;
    const key = `${own}|${subject.deviceClass}|${subject.location}|${subject.groups.join(',')}|${subject.ownership}|${subject.lineKind}|${subject.metered}|${subject.clientKind}|${subject.guest}|${subject.inside}`;
    let known = this.settled.get(key);
    if (!known) this.settled.set(key, (known = resolveSettings(settings, subject)));
    if (!isOwn) this.last = { subject, values: known };
    return known;
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
