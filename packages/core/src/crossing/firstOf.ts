import { remembered } from './chosen.js';

/** What was worked out, and of which facts. */
interface Made<F, T> {
  facts: F;
  made: T;
}

/** So many of one resource, endpoint and person are kept: what tells them apart tells most of them apart. */
const mostOfOne = 8;

/** What was made of one resource, by the number of the endpoint, then of the person. */
type ByNumbers<F, T> = Map<number, Map<number, Made<F, T>[]>>;
// asked for every crossing: made here, and not each time it is asked
const nothing = <K, V>(): Map<K, V> => new Map<K, V>();
const none = <T>(): T[] => [];

/** What is worked out of many facts: of those that are alike the first is worked out and holds for all. */
export class FirstOf<F, T> {
  private kept = new Map<object, ByNumbers<F, T>>();
  private count = 0;

  /**
   * @param most so many are kept; beyond that it begins anew, so that what nobody is like holds nothing
   * @param areAlike whether what is worked out of two is the same, where their resource is and their endpoint and person say the same
   */
  constructor(
    private readonly most: number,
    private readonly areAlike: (a: F, b: F) => boolean,
    private readonly work: (facts: F) => T,
  ) {}

  /** @param endpoint by its number, and so the person: see `endpointNumber`, `personNumber` */
  of(facts: F, resource: object, endpoint: number, person = 0): T {
    if (this.count >= this.most) {
      this.kept = new Map();
      this.count = 0;
    }
    const byEndpoint: ByNumbers<F, T> = remembered(this.kept, resource, nothing);
    const byPerson = remembered(byEndpoint, endpoint, nothing);
    const several = remembered(byPerson, person, none);
    for (const each of several) if (this.areAlike(each.facts, facts)) return each.made;
    const made = this.work(facts);
    if (several.length < mostOfOne) {
      several.push({ facts, made });
      this.count++;
    }
    return made;
  }
}
