import type { Group, Person, Publication } from '@underpass/contracts';
import { idsBy, keyed, type Keyed } from '../indexes/index.js';

/** The part of an estate that decides who sees what. */
export interface AccessEstate {
  readonly person: readonly Person[];
  readonly group: readonly Group[];
  readonly publication: readonly Publication[];
}

/** A publication that a group gives: the groups passed on the way, nearest to the person first. */
interface Offer {
  publication: Publication;
  groups: readonly string[];
}

/** A resource that is reached, with the shortest way to it. */
export interface Reached {
  resource: string;
  /** Groups on the way, nearest to the person first. */
  groups: readonly string[];
  publication: string;
  /** Portal it is found at; null where the publication is attached to none, so that nobody sees it. */
  portal: string | null;
}

/** What a set of groups comes to. */
export interface Reach {
  /** Every group, nested ones included, from the lowest rank to the highest. */
  groups: readonly string[];
  /** Publications held, attached or not. */
  publications: readonly string[];
  /** Resources held, in the order of the groups; those of an unattached publication have no portal. */
  held: readonly Reached[];
  /** Those of them that are seen. */
  seen: readonly Reached[];
}

const nothing: Reach = { groups: [], publications: [], held: [], seen: [] };

/** The lists of an estate by which who sees what is looked up backwards. */
export const accessBy = {
  /** People directly in a group. */
  members: idsBy((person: Person) => person.groups),
  /** Groups that are members of a group. */
  children: idsBy((group: Group) => group.memberOf),
  /** Groups that hold a publication. */
  holders: idsBy((group: Group) => group.publications),
  /** Publications that hold a resource. */
  offering: idsBy((publication: Publication) => publication.resources),
};
type AccessLists = { readonly [L in keyof typeof accessBy]: Keyed<string> };
type AccessObjects = {
  readonly person: ReadonlyMap<string, Person>;
  readonly group: ReadonlyMap<string, Group>;
  readonly publication: ReadonlyMap<string, Publication>;
};

/** What groups come to, worked out once for every distinct set of groups while groups and publications stay as they are. */
class GroupReach {
  private readonly offers = new Map<string, readonly Offer[]>();
  private readonly ancestors = new Map<string, readonly (readonly string[])[]>();
  private readonly reached = new Map<string, Reach>();

  constructor(
    readonly groups: ReadonlyMap<string, Group>,
    readonly publications: ReadonlyMap<string, Publication>,
  ) {}

  /** Ways from a group upwards, the group itself first; every group once, by the shortest way. */
  private waysUp(id: string): readonly (readonly string[])[] {
    const known = this.ancestors.get(id);
    if (known) return known;
    const ways: string[][] = [];
    const met = new Set<string>();
    let level: string[][] = this.groups.has(id) ? [[id]] : [];
    while (level.length) {
      const next: string[][] = [];
      for (const way of level) {
        const here = way.at(-1) as string;
        if (met.has(here)) continue;
        met.add(here);
        ways.push(way);
        for (const parent of this.groups.get(here)?.memberOf ?? []) if (this.groups.has(parent)) next.push([...way, parent]);
      }
      level = next;
    }
    this.ancestors.set(id, ways);
    return ways;
  }

  private offersOf(id: string): readonly Offer[] {
    let known = this.offers.get(id);
    if (!known) {
      known = this.waysUp(id).flatMap((groups) =>
        (this.groups.get(groups.at(-1) as string)?.publications ?? []).flatMap((held) => {
          const publication = this.publications.get(held);
          return publication ? [{ publication, groups }] : [];
        }),
      );
      this.offers.set(id, known);
    }
    return known;
  }

  /** What groups come to for whoever is in them. Unknown ids are left out. */
  of(direct: readonly string[]): Reach {
    if (direct.length === 0) return nothing;
    const key = direct.length === 1 ? (direct[0] as string) : [...direct].sort().join('\n');
    let known = this.reached.get(key);
    if (!known) this.reached.set(key, (known = this.resolve(direct)));
    return known;
  }

  private resolve(direct: readonly string[]): Reach {
    const byRank = (a: Group, b: Group) => a.rank - b.rank || (a.id < b.id ? -1 : 1);
    const own = [...new Set(direct)].flatMap((id) => this.groups.get(id) ?? []).sort(byRank);
    const all = new Map<string, Group>();
    const held = new Map<string, Reached>();
    const publications = new Set<string>();
    for (const group of own) {
      for (const way of this.waysUp(group.id)) {
        const end = this.groups.get(way.at(-1) as string);
        if (end) all.set(end.id, end);
      }
      for (const { publication, groups } of this.offersOf(group.id)) {
        publications.add(publication.id);
        const portal = publication.portals[0] ?? null;
        for (const resource of publication.resources) {
          const known = held.get(resource);
          // a way through a portal comes before one without, then the shorter one, then the one of the lower rank
          if (known && known.portal !== null && portal === null) continue;
          if (known && (known.portal === null) === (portal === null) && known.groups.length <= groups.length) continue;
          held.set(resource, { resource, groups, publication: publication.id, portal });
        }
      }
    }
    const list = [...held.values()];
    return {
      groups: [...all.values()].sort(byRank).map(({ id }) => id),
      publications: [...publications],
      held: list,
      seen: list.filter(({ portal }) => portal !== null),
    };
  }
}

/** Who sees what, over groups (nested), publications and portals. Never changed: `after` shares what stays. */
export class AccessIndex {
  private constructor(
    readonly people: ReadonlyMap<string, Person>,
    private readonly reach: GroupReach,
    private readonly lists: AccessLists,
  ) {}

  static over({ person, group, publication }: AccessObjects, lists: AccessLists): AccessIndex {
    return new AccessIndex(person, new GroupReach(group, publication), lists);
  }

  static of({ person, group, publication }: AccessEstate): AccessIndex {
    const byId = <T extends { id: string }>(objects: readonly T[]) => new Map(objects.map((object) => [object.id, object]));
    return AccessIndex.over(
      { person: byId(person), group: byId(group), publication: byId(publication) },
      {
        members: keyed(accessBy.members, person),
        children: keyed(accessBy.children, group),
        holders: keyed(accessBy.holders, group),
        offering: keyed(accessBy.offering, publication),
      },
    );
  }

  /** The index over other objects; what groups come to is kept where neither groups nor publications are others. */
  after({ person, group, publication }: AccessObjects, lists: AccessLists): AccessIndex {
    const stays = group === this.reach.groups && publication === this.reach.publications;
    return new AccessIndex(person, stays ? this.reach : new GroupReach(group, publication), lists);
  }

  get groups(): ReadonlyMap<string, Group> {
    return this.reach.groups;
  }
  get publications(): ReadonlyMap<string, Publication> {
    return this.reach.publications;
  }

  /** Whether groups come to the same in both, so that only people's own groups can tell them apart. */
  sharesReach(other: AccessIndex): boolean {
    return this.reach === other.reach;
  }

  /** What groups come to for whoever is in them. Unknown ids are left out. */
  of(direct: readonly string[]): Reach {
    return this.reach.of(direct);
  }

  /** What a person comes to with the groups they are in now. */
  ofPerson(id: string): Reach {
    return this.of(this.people.get(id)?.groups ?? []);
  }

  /** People who hold a publication, through whatever group. */
  peopleWith(publication: string): Set<string> {
    return this.membersOf(this.lists.holders.get(publication) ?? []);
  }

  /** People in a group, directly or through groups within it. */
  peopleIn(group: string): Set<string> {
    return this.membersOf([group]);
  }

  private membersOf(groups: readonly string[]): Set<string> {
    const { members, children } = this.lists;
    const people = new Set<string>();
    const met = new Set<string>();
    const waiting = [...groups];
    for (let group = waiting.pop(); group !== undefined; group = waiting.pop()) {
      if (met.has(group)) continue;
      met.add(group);
      for (const person of members.get(group) ?? []) people.add(person);
      waiting.push(...(children.get(group) ?? []));
    }
    return people;
  }

  /** People who see a resource: through a publication that is attached to a portal. */
  peopleSeeing(resource: string): Set<string> {
    const people = new Set<string>();
    for (const id of this.lists.offering.get(resource) ?? [])
      if ((this.publications.get(id)?.portals.length ?? 0) > 0) for (const person of this.peopleWith(id)) people.add(person);
    return people;
  }
}

/** The chain that gives a resource: person, groups, publication, portal, resource. */
export const chainOf = (person: string, { groups, publication, portal, resource }: Reached): string[] => [
  person,
  ...groups,
  publication,
  ...(portal === null ? [] : [portal]),
  resource,
];
