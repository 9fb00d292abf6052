import type { Group, ObjectKind, Person } from '@underpass/contracts';
import type { ObjectChange } from '../../estate/index.js';
import { same } from '../../estate/difference.js';
import { arrived, type Held, type SaidFields, type SaidOf } from '../sources/sources.js';
import { NameBook } from '../names.js';
import type { Named } from '../target.js';

/** A person as a directory has them, under the directory's own key. */
export interface FeedPerson {
  key: string;
  /** What they sign in as, or are numbered: by it they are found among those that are there. */
  match: string;
  name: string;
  /** Whoever may not sign in is in no group. */
  active: boolean;
  place: string | null;
  /** Keys of the groups they are in. */
  groups: readonly string[];
}
/** A group as a directory has it. */
export interface FeedGroup {
  key: string;
  name: string;
  /** Keys of groups this one is a member of. */
  memberOf: readonly string[];
}
/** What a directory says: all of it, or what changed. */
export interface Feed {
  people: readonly FeedPerson[];
  groups: readonly FeedGroup[];
  /** Keys of what is not there any more. */
  gone: { people: readonly string[]; groups: readonly string[] };
}

/** What stands here for what a directory has. */
export interface Link {
  kind: 'person' | 'group';
  key: string;
  id: string;
  /** It came to be by the directory. */
  made: boolean;
}

/** The estate a directory is laid over. */
export interface FeedEstate {
  find: (kind: ObjectKind, id: string) => object | undefined;
  all: (kind: ObjectKind) => Iterable<object>;
  said: (kind: ObjectKind, id: string) => SaidOf;
  order: (kind: ObjectKind) => Parameters<typeof arrived>[0]['order'];
  /** An object of a kind with what it cannot be without. */
  complete: (kind: ObjectKind, fields: Readonly<Record<string, unknown>>) => Named;
  keyOf: (name: string) => string;
  /** Whether something beside people and groups names a group. */
  namesGroup: (id: string) => boolean;
}

/** As which source, and over what, a directory is laid. */
export interface FeedOptions {
  source: string;
  at: string;
  /** What of the source stands for what already. */
  links: readonly Link[];
  /** Places that are not there are made. */
  makePlaces: boolean;
}

/** What a directory comes to. */
export interface FeedOutcome {
  writes: ObjectChange[];
  says: { kind: ObjectKind; id: string; source: string; fields: SaidFields }[];
  held: ({ kind: ObjectKind; id: string; name: string } & Held)[];
  linked: Link[];
  unlinked: Pick<Link, 'kind' | 'key'>[];
  /** People who leave; what goes with them is the estate's to say. */
  leaving: string[];
  /** What could not be done as it is said, in words. */
  notes: string[];
}

/** Where people are of whom nobody says where they are. */
export const nowhere = { id: 'place-not-known', name: 'Place not known' };

/**
 * What a directory comes to over the estate: people and groups that are new, that changed, and that left. Groups the directory does not
 * know stay with the people who are in them; other fields are decided by the order of sources.
 */
export function feedOver(estate: FeedEstate, feed: Feed, options: FeedOptions): FeedOutcome {
  return new Laying(estate, feed, options).run();
}

class Laying {
  readonly #outcome: FeedOutcome = { writes: [], says: [], held: [], linked: [], unlinked: [], leaving: [], notes: [] };
  readonly #writes = new Map<string, ObjectChange>();
  readonly #links: Record<'person' | 'group', Map<string, Link>> = { person: new Map(), group: new Map() };
  /** Ids of groups that are the directory's to fill. */
  readonly #own: Set<string>;
  readonly #places: NameBook;

  constructor(
    private readonly estate: FeedEstate,
    private readonly feed: Feed,
    private readonly options: FeedOptions,
  ) {
    for (const link of options.links) if (estate.find(link.kind, link.id)) this.#links[link.kind].set(link.key, link);
    this.#own = new Set([...this.#links.group.values()].map(({ id }) => id));
    this.#places = new NameBook(estate.all('location') as Iterable<Named>);
  }

  run(): FeedOutcome {
    this.#linkAll();
    for (const group of this.feed.groups) this.#group(group);
    for (const person of this.feed.people) this.#person(person);
    this.#leave();
    this.#outcome.writes = [...this.#writes.values()].filter(({ before, after }) => !same(before, after));
    return this.#outcome;
  }

  #now(kind: ObjectKind, id: string): object | undefined {
    const write = this.#writes.get(`${kind}/${id}`);
    return write ? (write.after ?? undefined) : this.estate.find(kind, id);
  }

  #put(kind: ObjectKind, id: string, after: object | null): void {
    const before = this.#writes.get(`${kind}/${id}`)?.before ?? this.estate.find(kind, id) ?? null;
    this.#writes.set(`${kind}/${id}`, { kind, id, before, after });
  }

  /** An id made of a name, that nobody else has. */
  #free(kind: ObjectKind, name: string, taken: ReadonlySet<string>): string {
    // what people sign in as is mostly a key already
    const key = (kind === 'person' && isKey(name) ? name : this.estate.keyOf(name)) || kind;
    let id = key;
    for (let i = 2; taken.has(id) || this.estate.find(kind, id); i++) id = `${key.slice(0, 58)}-${i}`;
    return id;
  }

  /** Finds what stands for each, before anything is written: groups name one another. */
  #linkAll(): void {
    const byName = new Map<string, string[]>();
    for (const group of this.estate.all('group') as Iterable<Group>)
      byName.set(group.name.toLowerCase(), [...(byName.get(group.name.toLowerCase()) ?? []), group.id]);
    const people = new Map([...(this.estate.all('person') as Iterable<Person>)].map(({ id }) => [id.toLowerCase(), id]));
    this.#linkKind('group', this.feed.groups, ({ name }) => {
      const found = byName.get(name.toLowerCase()) ?? [];
      if (found.length > 1) this.#outcome.notes.push(`Several groups are called ${name}: ${found.join(', ')}. Another one was made.`);
      return found.length === 1 ? found[0] : undefined;
    });
    this.#linkKind('person', this.feed.people, ({ match }) => people.get(match.toLowerCase()));
    for (const { id } of this.#links.group.values()) this.#own.add(id);
  }

  #linkKind<T extends { key: string; name: string; match?: string }>(
    kind: 'person' | 'group',
    list: readonly T[],
    find: (each: T) => string | undefined,
  ): void {
    const links = this.#links[kind];
    // a directory that was set up anew has other keys for the same people: who is gone and here again is the same
    const gone = new Set(kind === 'person' ? this.feed.gone.people : this.feed.gone.groups);
    const taken = new Set([...links.values()].filter(({ key }) => !gone.has(key)).map(({ id }) => id));
    const made = new Map([...links.values()].map((link) => [link.id, link.made]));
    for (const each of list) {
      if (links.has(each.key)) continue;
      const found = find(each);
      const there = found !== undefined && !taken.has(found);
      const id = there ? found : this.#free(kind, each.match ?? each.name, taken);
      const link: Link = { kind, key: each.key, id, made: there ? (made.get(id) ?? false) : true };
      taken.add(id);
      links.set(each.key, link);
      this.#outcome.linked.push(link);
    }
  }

  #idsOf(keys: readonly string[]): string[] {
    const gone = new Set(this.feed.gone.groups);
    return keys.flatMap((key) => (gone.has(key) ? [] : (this.#links.group.get(key)?.id ?? [])));
  }

  /** Groups that the directory does not know stay, and those it says come behind. */
  #filled(before: readonly string[], said: readonly string[]): string[] {
    const kept = before.filter((id) => !this.#own.has(id));
    return [...new Set([...kept, ...said])];
  }

  /**
   * Writes what the directory says of an object.
   * @param list the field that holds its groups, which are decided one by one
   * @param forced what holds whatever anybody says
   */
  #arrive(
    kind: 'person' | 'group',
    id: string,
    fields: Readonly<Record<string, unknown>>,
    list: string,
    forced?: Readonly<Record<string, unknown>>,
  ): void {
    const { source, at } = this.options;
    const before = (this.estate.find(kind, id) ?? null) as Named | null;
    const after = before ? { ...before, ...fields } : this.estate.complete(kind, { ...fields, id });
    const said = this.estate.said(kind, id);
    const came = arrived<Named>({ ...{ before, after, fields: Object.keys(fields), source, at, said }, order: this.estate.order(kind) });
    if (Object.keys(came.says).length) this.#outcome.says.push({ kind, id, source, fields: came.says });
    const merged = forced ? undefined : this.#merged(kind, id, list, came.held, said);
    const name = after.name ?? id;
    for (const held of came.held)
      if (!(held.field in (forced ?? {})) && !(merged && held.field === list && same(merged, held.value)))
        this.#outcome.held.push({ kind, id, name, ...held, ...(merged && held.field === list ? { stands: merged } : {}) });
    this.#put(kind, id, { ...came.object, ...(merged ? { [list]: merged } : {}), ...forced });
  }

  /**
   * Groups where somebody's word decides: of each group it is held alone where they put somebody in or took somebody out; all others
   * follow the directory. Their word is kept as what stands then.
   */
  #merged(kind: 'person' | 'group', id: string, list: string, held: readonly Held[], said: SaidOf): string[] | undefined {
    const hold = held.find(({ field }) => field === list);
    const theirs = hold && said.get(hold.source)?.[list];
    if (!hold || !theirs) return undefined;
    const [stands, wanted] = [(hold.stands ?? []) as string[], (hold.value ?? []) as string[]];
    const last = (said.get(this.options.source)?.[list]?.value ?? []) as string[];
    const changed = (each: string) => this.#own.has(each) && stands.includes(each) !== last.includes(each);
    const merged = [
      ...stands.filter((each) => changed(each) || wanted.includes(each)),
      ...wanted.filter((each) => !stands.includes(each) && !changed(each)),
    ];
    if (!same(merged, stands)) this.#outcome.says.push({ kind, id, source: hold.source, fields: { [list]: { ...theirs, value: merged } } });
    return merged;
  }

  #group({ key, name, memberOf }: FeedGroup): void {
    const { id } = this.#links.group.get(key) as Link;
    const before = this.estate.find('group', id) as Group | undefined;
    const above = this.#filled(before?.memberOf ?? [], this.#idsOf(memberOf));
    const fresh = before ? {} : { rank: 0, publications: [] };
    this.#arrive('group', id, { name: shortened(name), memberOf: above, ...fresh }, 'memberOf');
  }

  #person({ key, name, active, place, groups }: FeedPerson): void {
    const { id } = this.#links.person.get(key) as Link;
    const before = this.estate.find('person', id) as Person | undefined;
    const location = place === null ? null : this.#place(place);
    const filled = active ? this.#filled(before?.groups ?? [], this.#idsOf(groups)) : [];
    this.#arrive(
      'person',
      id,
      {
        name: shortened(name),
        ...(location === null ? (before ? {} : { location: this.#nowhere() }) : { location }),
        ...{ groups: filled, ...(before ? {} : { kind: 'staff' }) },
      },
      'groups',
      // whoever may not sign in sees nothing, whatever somebody typed
      active ? undefined : { groups: [] },
    );
  }

  /** The place of a name: one that is there, or one that is made; null where it cannot be told. */
  #place(name: string): string | null {
    const found = this.#places.find(name);
    if (found && 'id' in found) return found.id;
    const told = found
      ? `Several places are called ${name}: ${found.several.join(', ')}. Whoever is there stays where they are.`
      : `No place is called ${name}.`;
    if (found || !this.options.makePlaces) {
      if (!this.#outcome.notes.includes(told)) this.#outcome.notes.push(told);
      return null;
    }
    const key = this.estate.keyOf(name);
    if (key === '') return null;
    const object = this.estate.complete('location', { id: this.#free('location', name, new Set()), name: shortened(name) });
    this.#put('location', object.id, object);
    this.#places.add(object);
    return object.id;
  }

  #nowhere(): string {
    if (!this.#now('location', nowhere.id)) this.#put('location', nowhere.id, this.estate.complete('location', nowhere));
    return nowhere.id;
  }

  /** Whether what is gone is there again under another key. */
  #again(kind: 'person' | 'group', { id, key }: Link): boolean {
    return this.#outcome.linked.some((link) => link.kind === kind && link.id === id && link.key !== key);
  }

  /** People and groups that are not there any more. */
  #leave(): void {
    for (const key of this.feed.gone.people) {
      const link = this.#links.person.get(key);
      this.#outcome.unlinked.push({ kind: 'person', key });
      if (link && !this.#again('person', link)) this.#outcome.leaving.push(link.id);
    }
    const ended = new Map(
      this.feed.gone.groups.flatMap((key) => (this.#links.group.get(key) ? [[key, this.#links.group.get(key) as Link]] : [])),
    );
    for (const [key, link] of ended) if (this.#again('group', link)) ended.delete(key);
    for (const key of this.feed.gone.groups) this.#outcome.unlinked.push({ kind: 'group', key });
    if (ended.size === 0) return;
    const ids = new Set([...ended.values()].map(({ id }) => id));
    const strip = (kind: 'person' | 'group', field: 'groups' | 'memberOf') => {
      for (const each of this.estate.all(kind) as Iterable<Named>) {
        const now = this.#now(kind, each.id) as Record<string, unknown> | undefined;
        const list = (now?.[field] ?? []) as string[];
        if (list.some((id) => ids.has(id))) this.#put(kind, each.id, { ...now, [field]: list.filter((id) => !ids.has(id)) });
      }
    };
    strip('person', 'groups');
    strip('group', 'memberOf');
    for (const { id, made } of ended.values()) {
      const group = this.#now('group', id) as Group | undefined;
      // one that gives something, or that something else names, is left with nobody in it
      if (made && group && group.publications.length === 0 && !this.estate.namesGroup(id)) this.#put('group', id, null);
      else this.#outcome.notes.push(`The group ${group?.name ?? id} stays, with nobody in it: it is used here.`);
    }
  }
}

const shortened = (name: string): string => name.trim().slice(0, 120);
/** What may be an id as it stands. */
const isKey = (text: string): boolean => /^[A-Za-z0-9][A-Za-z0-9._-]{0,63}$/.test(text);
