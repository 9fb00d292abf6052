import { Injectable } from '@nestjs/common';
import { InjectDataSource } from '@nestjs/typeorm';
import {
  kindWords,
  type CarriedAnswer,
  type Change,
  type LintAfter,
  type LintAnswer,
  type NeedlessAnswer,
  type Setting,
  type SettingPlaces,
  type SettingsOf,
  type SettingsQuery,
  type SuggestAnswer,
} from '@underpass/contracts';
import {
  CarriedTally,
  LintTally,
  entriesFor,
  findingNeedless,
  subjectAt,
  subjectIn,
  suggesting,
  touchedBy,
  usersOf,
  type EstateModel,
  type ObjectChange,
  type SettingSubject,
} from '@underpass/core';
import { DataSource } from 'typeorm';
import type { z } from 'zod';
import { ResultsService } from '../crossing/results.service.js';
import { EstateStore } from '../estate/estate.store.js';
import { eachInSlices, inSlices, KeptAnswers } from '../jobs/slices.js';
import { notFound, ProblemError } from '../problems/problem.js';

/** Kinds that decide which settings are in force for whom. */
const deciding = ['setting', 'endpoint', 'location', 'person', 'group'];
/** So many writes are taken back to see a past date; more would hold others up. */
const mostTakenBack = 20_000;
const mostPlaces = 500;
const mostHistory = 100;

interface AuditRow {
  kind: ObjectChange['kind'];
  object_id: string;
  before: object | null;
  after: object | null;
  by_name: string;
  at: Date;
  summary: string;
}

/** Settings in force, where they come from, what does not fit among them, and what would help. */
@Injectable()
export class SettingsService {
  private readonly lints = new KeptAnswers<LintAnswer>();
  private readonly carriedNow = new KeptAnswers<CarriedAnswer>();
  private readonly needlessNow = new KeptAnswers<NeedlessAnswer>();
  private readonly suggestions = new KeptAnswers<SuggestAnswer>();

  constructor(
    private readonly store: EstateStore,
    private readonly results: ResultsService,
    @InjectDataSource() private readonly data: DataSource,
  ) {}

  /** What is in force is what was written, whether its verdicts stand yet or not. */
  private get model(): EstateModel {
    return this.store.model;
  }

  /** The estate as it was at an instant, as far as settings go by it: what was written since is taken back, the last first. */
  private async modelAt(atMs: number): Promise<EstateModel> {
    const rows = (await this.data.query(
      `SELECT e.kind, e.object_id, e.before FROM audit_entry e JOIN change_set c ON c.id = e.change_id
       WHERE c.at > $1 AND e.kind = ANY ($2) ORDER BY c.version DESC LIMIT $3`,
      [new Date(atMs), deciding, mostTakenBack + 1],
    )) as Pick<AuditRow, 'kind' | 'object_id' | 'before'>[];
    if (rows.length > mostTakenBack)
      throw new ProblemError(422, 'Too long ago', `More than ${mostTakenBack} writes have happened since. Ask for a later date.`);
    const { model } = this;
    // of several writes of one object the earliest says what it was before them all
    const before = new Map<string, ObjectChange>();
    for (const { kind, object_id: id, before: then } of rows)
      before.set(`${kind}/${id}`, { kind, id, before: model.find(kind, id) ?? null, after: then });
    return before.size === 0 ? model : model.after({ writes: [...before.values()] });
  }

  /** What the layers look at for somebody at an endpoint, or at a location as a whole, and the entries that stand there, now or at a past instant. */
  async of({ at, ...whose }: z.infer<typeof SettingsQuery>): Promise<SettingsOf> {
    const nowMs = Date.now();
    const atMs = at === undefined ? nowMs : Date.parse(at);
    if (atMs > nowMs + 60_000)
      throw new ProblemError(422, 'Not valid', 'What is in force later is not known. Ask for a date that is gone by.');
    const model = at === undefined ? this.model : await this.modelAt(atMs);
    const { subject, ...told } = whose.location === undefined ? this.seatOf(model, whose) : this.locationOf(model, whose.location);
    const entries = entriesFor(model.settings, subject);
    const written = await this.writtenOf(
      entries.map(({ id }) => id),
      atMs,
    );
    return {
      subject,
      ...told,
      entries: entries.map((entry) => ({ entry, written: written.get(entry.id) ?? null })),
      at: new Date(atMs).toISOString(),
      past: at !== undefined,
    };
  }

  /** Somebody at an endpoint: the usual person where none is named, the first endpoint of a person where that is not. */
  private seatOf(model: EstateModel, whose: { endpoint?: string; person?: string }): Omit<SettingsOf, 'entries' | 'at' | 'past'> {
    if (whose.person !== undefined && !model.people.has(whose.person)) throw this.gone(model, 'person', whose.person);
    const id = whose.endpoint ?? model.endpointsOf.get(whose.person ?? '')?.[0];
    if (id === undefined) throw new ProblemError(422, 'Not valid', `No endpoint is used by ${whose.person}: choose one.`);
    const endpoint = model.endpoints.get(id);
    if (!endpoint) throw this.gone(model, 'endpoint', id);
    const person = whose.person ?? endpoint.person ?? usersOf(endpoint)[0];
    if (person !== undefined && !model.people.has(person)) throw this.gone(model, 'person', person);
    const subject = subjectIn(model, id, person);
    if (!subject) throw this.gone(model, 'location', endpoint.location);
    return {
      subject: { ...subject, groups: [...subject.groups] },
      platform: endpoint.platform,
      names: {
        endpoint: endpoint.name,
        person: person === undefined ? null : (model.people.get(person)?.name ?? person),
        location: model.locations.get(endpoint.location)?.name ?? endpoint.location,
        groups: subject.groups.map((group) => model.groups.get(group)?.name ?? group),
      },
      usual: null,
    };
  }

  /** A location as a whole: nobody in particular, at the sort of endpoint that most there are. */
  private locationOf(model: EstateModel, id: string): Omit<SettingsOf, 'entries' | 'at' | 'past'> {
    const location = model.locations.get(id);
    if (!location) throw this.gone(model, 'location', id);
    const found = subjectAt(model, id);
    if (!found) throw new ProblemError(422, 'Not valid', `No endpoint stands at ${location.name}, so nothing is in force there.`);
    const { subject, platform, alike, of } = found;
    return {
      ...{ subject: { ...subject, groups: [] }, platform, usual: { alike, of } },
      names: { endpoint: '', person: null, location: location.name, groups: [] },
    };
  }

  /** Why there is no such object: it is in no estate, or not yet in that of a past date. */
  private gone(model: EstateModel, kind: 'endpoint' | 'person' | 'location', id: string): ProblemError {
    return model !== this.model && this.model.find(kind, id)
      ? new ProblemError(404, 'Not recorded', `Nothing is recorded of ${id} on that date: its first record is later.`)
      : notFound(kind, id);
  }

  /** Who wrote the version of each entry that stood at an instant. */
  async writtenOf(ids: readonly string[], atMs: number): Promise<Map<string, { by: string; at: string }>> {
    if (ids.length === 0) return new Map();
    const rows = (await this.data.query(
      `SELECT DISTINCT ON (e.object_id) e.object_id, c.by_name, c.at FROM audit_entry e JOIN change_set c ON c.id = e.change_id
       WHERE e.kind = 'setting' AND e.object_id = ANY ($1) AND c.at <= $2 ORDER BY e.object_id, c.version DESC`,
      [ids, new Date(atMs + 1)],
    )) as Pick<AuditRow, 'object_id' | 'by_name' | 'at'>[];
    return new Map(rows.map((row) => [row.object_id, { by: row.by_name, at: row.at.toISOString() }]));
  }

  /** Everywhere a setting stands, and who wrote what of it, when and why. */
  async places(key: string): Promise<SettingPlaces> {
    const all = [...this.model.all('setting').values()].filter((entry) => entry.key === key);
    const rows = (await this.data.query(
      `SELECT e.object_id, e.before, e.after, c.by_name, c.at, c.summary FROM audit_entry e JOIN change_set c ON c.id = e.change_id
       WHERE e.kind = 'setting' AND (e.before->>'key' = $1 OR e.after->>'key' = $1) ORDER BY c.version DESC LIMIT $2`,
      [key, mostHistory],
    )) as (Omit<AuditRow, 'before' | 'after'> & { before: Setting | null; after: Setting | null })[];
    return {
      entries: all.slice(0, mostPlaces).map((entry) => ({ entry, where: this.where(entry) })),
      total: all.length,
      history: rows.map(({ object_id: id, before, after, by_name: by, at, summary: why }) => ({
        ...{ id, by, at: at.toISOString(), why, old: before, fresh: after },
        where: this.where((after ?? before) as Setting),
      })),
    };
  }

  /** Where an entry stands, in words. */
  where({ layer, target }: Pick<Setting, 'layer' | 'target'>): string {
    const { model } = this;
    switch (layer) {
      case 'organisation':
        return 'The whole organisation';
      case 'device class':
        return `Device class ${target}`;
      default:
        return `${kindWords[layer].one} ${(model.find(layer, target) as { name?: string } | undefined)?.name ?? target}`;
    }
  }

  /** Checks between settings on every crossing of the estate. */
  lint(): Promise<LintAnswer> {
    const { reader } = this.results;
    return this.lints.get(reader, '', async () => {
      const tally = new LintTally();
      await eachInSlices(reader.model.crossings, (ref) => {
        const facts = reader.read(ref);
        if (facts) tally.add(facts);
      });
      return { rules: tally.result(), crossings: reader.model.crossings.length };
    });
  }

  /** Checks that a change makes hit, and those it makes silent. */
  async lintAfter(change: Change): Promise<LintAfter> {
    const { reader } = this.results;
    const fresh = reader.after(change);
    const [before, after] = [new LintTally(), new LintTally()];
    await eachInSlices(touchedBy(reader, fresh).after, (ref) => {
      const [old, now] = [reader.read(ref), fresh.read(ref)];
      if (old) before.add(old);
      if (now) after.add(now);
    });
    const [old, now] = [before.result(), after.result()];
    const more = (list: typeof old, than: typeof old) =>
      list.filter(({ rule, crossings }) => crossings > (than.find((each) => each.rule === rule)?.crossings ?? 0));
    return { fresh: more(now, old), gone: more(old, now) };
  }

  /** What people can and cannot carry in and out, by kind of person and whose device it is. */
  carried(): Promise<CarriedAnswer> {
    const { reader } = this.results;
    return this.carriedNow.get(reader, '', async () => {
      const tally = new CarriedTally();
      await eachInSlices(reader.model.crossings, (ref) => {
        const facts = reader.read(ref);
        if (facts) tally.add(facts);
      });
      return tally.result();
    });
  }

  /** Entries that may go without anybody's value becoming another. */
  needless(): Promise<NeedlessAnswer> {
    const { model } = this;
    return this.needlessNow.get(model, '', () => this.findNeedless(model));
  }

  private async findNeedless(model: EstateModel): Promise<NeedlessAnswer> {
    const subjects: SettingSubject[] = [];
    await eachInSlices([...model.endpoints.values()], (endpoint) => {
      const people = usersOf(endpoint);
      for (const person of people.length > 0 ? people : [undefined]) {
        const subject = subjectIn(model, endpoint.id, person);
        if (subject) subjects.push(subject);
      }
    });
    const entries = [...model.all('setting').values()];
    const found = await inSlices(findingNeedless(entries, subjects));
    return { entries: found.map(({ entry, because }) => ({ entry, because, where: this.where(entry) })), of: entries.length };
  }

  /** For a finding that many have: the layer at which one entry helps most and harms nobody. */
  suggest(kind: string): Promise<SuggestAnswer> {
    const { reader } = this.results;
    return this.suggestions.get(reader, kind, async () => {
      const refs = reader.model.crossings.filter(({ id }) => this.results.summary(id)?.kinds.includes(kind));
      const found = await inSlices(suggesting(reader, kind, refs));
      return { crossings: refs.length, suggestions: found.map((each) => ({ ...each, where: this.where(each) })) };
    });
  }
}
