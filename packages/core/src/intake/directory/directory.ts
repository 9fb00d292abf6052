import { valuesOf, type DirectoryEntry } from './entry.js';
import { parentOf, partsOf, sameName } from './names.js';

/** A person as a directory has them. */
export interface DirectoryPerson {
  dn: string;
  line: number;
  /** What they are called by the system, where it says so. */
  key: string;
  name: string;
  /** The place above them, by its name in `places`. */
  place: string | null;
  groups: string[];
}
/** A group, with the groups it is in. */
export interface DirectoryGroup {
  dn: string;
  line: number;
  name: string;
  /** Groups that this one is a member of. */
  memberOf: string[];
  members: number;
}
/** A unit in which people are. */
export interface DirectoryPlace {
  dn: string;
  line: number;
  name: string;
  people: number;
}
/** What is wrong with an entry, and what would be right. */
export interface DirectoryProblem {
  line: number;
  dn: string;
  text: string;
  wanted: string;
}
/** What a directory comes to. Groups and places are named by their distinguished name as it is compared. */
export interface DirectoryContent {
  people: Map<string, DirectoryPerson>;
  groups: Map<string, DirectoryGroup>;
  places: Map<string, DirectoryPlace>;
  problems: DirectoryProblem[];
}

/** Which attributes say what; others by a mapping. */
export interface DirectoryWords {
  /** What identifies a person. */
  key: readonly string[];
  name: readonly string[];
  /** Where a person works, if it is another attribute than the unit above them. */
  place?: string | undefined;
}
/** What is read where nobody says otherwise. */
export const usualWords: DirectoryWords = { key: ['uid', 'employeeNumber', 'cn'], name: ['displayName', 'cn'] };

/** Classes of people [RFC 4519 3, RFC 2798 2]. */
export const personClasses = ['inetorgperson', 'organizationalperson', 'person', 'residentialperson', 'account'];
/** Classes of groups. */
export const groupClasses = ['groupofnames', 'groupofuniquenames'];

const first = (entry: DirectoryEntry, names: readonly string[]): string | undefined => {
  for (const name of names) {
    const value = valuesOf(entry, name).find((each) => each.trim());
    if (value) return value.trim();
  }
  return undefined;
};

/**
 * People, nested groups and places out of the entries of a directory.
 * A member that is a group makes that group one of the other's members; a circle of groups is told and cut where it closes.
 * @source RFC 4519 3.5, 3.6, 3.11, 3.12; RFC 2798
 */
export function readDirectory(entries: readonly DirectoryEntry[], words: DirectoryWords = usualWords): DirectoryContent {
  const content: DirectoryContent = { people: new Map(), groups: new Map(), places: new Map(), problems: [] };
  const units = new Map<string, DirectoryPlace>();
  const membersOf = new Map<string, { entry: DirectoryEntry; names: string[] }>();
  const seen = new Map<string, number>();
  for (const entry of entries) {
    const dn = sameName(entry.dn);
    const before = seen.get(dn);
    if (before !== undefined) {
      content.problems.push({ line: entry.line, dn: entry.dn, text: `stands in line ${before} already`, wanted: 'each entry once' });
      continue;
    }
    seen.set(dn, entry.line);
    const classes = valuesOf(entry, 'objectClass').map((each) => each.toLowerCase());
    const named = partsOf(entry.dn)[0]?.value ?? entry.dn;
    if (classes.some((each) => groupClasses.includes(each))) {
      // a name may have a tail of bits that tells it from another of the same name [RFC 4517 3.3.21]
      const names = [...valuesOf(entry, 'member'), ...valuesOf(entry, 'uniqueMember')].map((each) =>
        sameName(each.replace(/#'[01]*'B$/, '')),
      );
      membersOf.set(dn, { entry, names });
      content.groups.set(dn, { dn: entry.dn, line: entry.line, name: first(entry, ['cn']) ?? named, memberOf: [], members: 0 });
    } else if (classes.some((each) => personClasses.includes(each))) {
      const key = first(entry, words.key) ?? named;
      content.people.set(dn, { dn: entry.dn, line: entry.line, key, name: first(entry, words.name) ?? named, place: null, groups: [] });
    } else if (classes.includes('organizationalunit'))
      units.set(dn, { dn: entry.dn, line: entry.line, name: first(entry, ['ou']) ?? named, people: 0 });
  }
  placePeople(content, entries, units, words);
  joinGroups(content, membersOf);
  return content;
}

/** The place of each person: what an attribute says, or the nearest unit above. Units above nobody are no places. */
function placePeople(
  content: DirectoryContent,
  entries: readonly DirectoryEntry[],
  units: ReadonlyMap<string, DirectoryPlace>,
  words: DirectoryWords,
): void {
  const byDn = words.place === undefined ? null : new Map(entries.map((entry) => [sameName(entry.dn), entry]));
  for (const [dn, person] of content.people) {
    const entry = byDn?.get(dn);
    const told = entry && words.place !== undefined ? first(entry, [words.place]) : undefined;
    if (told !== undefined) {
      const key = told.toLowerCase();
      const place = content.places.get(key) ?? { dn: told, line: person.line, name: told, people: 0 };
      place.people++;
      content.places.set(key, place);
      person.place = key;
      continue;
    }
    for (let above = parentOf(person.dn); above !== ''; above = parentOf(above)) {
      const key = sameName(above);
      const unit = units.get(key);
      if (!unit) continue;
      unit.people++;
      content.places.set(key, unit);
      person.place = key;
      break;
    }
  }
}

function joinGroups(content: DirectoryContent, membersOf: ReadonlyMap<string, { entry: DirectoryEntry; names: string[] }>): void {
  const { people, groups, problems } = content;
  for (const [dn, { entry, names }] of membersOf) {
    const group = groups.get(dn) as DirectoryGroup;
    for (const name of new Set(names)) {
      const person = people.get(name);
      const inner = groups.get(name);
      if (person) person.groups.push(dn);
      else if (inner && name === dn)
        problems.push({ line: entry.line, dn: entry.dn, text: 'is a member of itself', wanted: 'other members' });
      else if (inner) inner.memberOf.push(dn);
      // a group of no one has to name a member all the same, and so it names itself or nobody [RFC 4519 3.5]
      else if (name !== '')
        problems.push({
          line: entry.line,
          dn: entry.dn,
          text: `has the member ${name}, which is not here`,
          wanted: 'a person or a group that is among what is read',
        });
      if (person || inner) group.members++;
    }
  }
  cutCircles(groups, problems);
}

/** Groups that are members of one another in a circle: told, and the last step of it left out. */
function cutCircles(groups: ReadonlyMap<string, DirectoryGroup>, problems: DirectoryProblem[]): void {
  const done = new Set<string>();
  for (const start of groups.keys()) {
    if (done.has(start)) continue;
    // by hand and not by calls: groups may be nested as deep as there are any
    const way: { dn: string; next: number }[] = [{ dn: start, next: 0 }];
    const on = new Set([start]);
    while (way.length) {
      const at = way.at(-1) as { dn: string; next: number };
      const group = groups.get(at.dn) as DirectoryGroup;
      const above = group.memberOf[at.next];
      if (above === undefined) {
        done.add(at.dn);
        on.delete(at.dn);
        way.pop();
      } else if (on.has(above)) {
        const circle = [...way.slice(way.findIndex(({ dn }) => dn === above)).map(({ dn }) => groups.get(dn)?.name ?? dn)];
        problems.push({
          line: group.line,
          dn: group.dn,
          text: `is in a circle of groups: ${[...circle, circle[0]].join(' in ')}`,
          wanted: 'groups that are members of one another in one direction alone',
        });
        group.memberOf.splice(at.next, 1);
      } else {
        at.next++;
        if (done.has(above)) continue;
        on.add(above);
        way.push({ dn: above, next: 0 });
      }
    }
  }
}
