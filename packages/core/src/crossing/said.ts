import type { Endpoint, Person } from '@underpass/contracts';

/** What an endpoint says beside its name and whose it is. */
const saidOfEndpoint = ({ id: _id, name: _name, person: _person, users: _users, ...rest }: Endpoint): string => JSON.stringify(rest);
/** What is said of a person beside the name. */
const saidOfPerson = ({ id: _id, name: _name, ...rest }: Person): string => JSON.stringify(rest);

/** So many texts are told apart; beyond that it begins anew, and what says the same is numbered twice. */
const mostTexts = 5000;

/** Objects by number: those that say the same have the same one. What was compared once is not compared again. */
class Numbered<T extends object> {
  private known = new WeakMap<T, number>();
  private texts = new Map<string, number>();
  private next = 0;
  constructor(private readonly textOf: (of: T) => string) {}
  number(of: T): number {
    let number = this.known.get(of);
    if (number !== undefined) return number;
    if (this.texts.size >= mostTexts) {
      this.known = new WeakMap();
      this.texts = new Map();
    }
    const text = this.textOf(of);
    number = this.texts.get(text) ?? this.next++;
    this.texts.set(text, number);
    this.known.set(of, number);
    return number;
  }
}

// remembered with the objects themselves: in whatever model they are, they say the same
const endpoints = new Numbered(saidOfEndpoint);
const people = new Numbered(saidOfPerson);

/** The same number for endpoints that say the same of everything but their name and whose they are. */
export const endpointNumber = (endpoint: Endpoint): number => endpoints.number(endpoint);
/** The same number for people of whom everything but the name is the same. */
export const personNumber = (person: Person): number => people.number(person);
