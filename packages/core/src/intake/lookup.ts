import type { ObjectKind, TableMap } from '@underpass/contracts';
import type { Intake } from './intake.js';
import { NameBook } from './names.js';
import type { IntakeTarget, Named } from './target.js';

/** Distinct names that were not found, for which the nearest are looked for. */
const mostNear = 300;

const quoted = (text: string): string => `“${text.length > 60 ? `${text.slice(0, 60)}…` : text}”`;

/** What names in cells mean: what is there, what came by the rows before, and what is made because a row names it. */
export class Lookup {
  readonly #books = new Map<ObjectKind, NameBook>();
  readonly #made = new Map<string, Intake['made'][number]>();
  readonly #near = new Map<string, string>();

  constructor(
    private readonly make: TableMap['make'],
    private readonly target: IntakeTarget,
  ) {}

  get made(): Intake['made'] {
    return [...this.#made.values()];
  }

  /** Others may name what came by a row. */
  add(kind: ObjectKind, object: Named): void {
    this.#book(kind).add(object);
  }

  #book(kind: ObjectKind): NameBook {
    let book = this.#books.get(kind);
    if (!book) this.#books.set(kind, (book = new NameBook(this.target.objects(kind))));
    return book;
  }

  /** The id of what is meant: by id or by name, or made where the mapping says so; or why there is none. */
  idOf(kind: ObjectKind, name: string): { id: string } | { text: string; wanted: string } {
    const found = this.#book(kind).find(name);
    if (!found) return this.#making(kind, name);
    if ('several' in found)
      return { text: `${quoted(name)} is what several are called: ${found.several.join(', ')}`, wanted: 'the id of the one that is meant' };
    const made = this.#made.get(`${kind}\0${found.id}`);
    if (made) made.rows++;
    return found;
  }

  #making(kind: ObjectKind, name: string): { id: string } | { text: string; wanted: string } {
    const common = this.make[kind];
    if (!common && this.target.alone) return { id: keyOfText(name, this.target) };
    if (!common) return { text: `no ${kind} is called ${quoted(name)}`, wanted: this.#nearest(kind, name) };
    const key = this.target.keyOf(name);
    if (key === '') return { text: `${quoted(name)} has no letters to make a key of`, wanted: 'a name with letters or digits' };
    const built = this.target.build(kind, { ...common, id: key, name }, null);
    if ('faults' in built) {
      const [fault] = built.faults;
      const text = `${kind} ${quoted(name)} cannot be made: ${fault?.field} ${fault?.problem}`;
      return { text, wanted: fault?.expected ?? 'what it needs' };
    }
    this.#made.set(`${kind}\0${key}`, { kind, object: built.object, name, rows: 1 });
    this.#book(kind).add(built.object);
    return { id: built.object.id };
  }

  #nearest(kind: ObjectKind, name: string): string {
    const key = `${kind}\0${name.toLowerCase()}`;
    const known = this.#near.get(key);
    if (known !== undefined) return known;
    const any = `the name or id of a ${kind} that is there`;
    if (this.#near.size >= mostNear) return any;
    const near = this.#book(kind).near(name);
    const called = near.map(({ id, name: text }) => (text && text !== id ? `${text} (${id})` : id));
    const wanted = near.length ? `${called.join(', or ')}?` : any;
    this.#near.set(key, wanted);
    return wanted;
  }

  /** Names for which something was made that are nearly alike, or like what is there. */
  alike(columnOf: (field: string) => string): Intake['alike'] {
    const found: Intake['alike'] = [];
    for (const kind of Object.keys(this.make) as ObjectKind[]) {
      const field = this.target.fields.find((each) => each.kind === kind && columnOf(each.name) !== '')?.name ?? '';
      const book = new NameBook(this.target.objects(kind));
      for (const { object, name } of this.made.filter((each) => each.kind === kind).slice(0, mostNear)) {
        const [near] = book.near(name, 1);
        if (near) found.push({ column: columnOf(field), field, values: [near.name ?? near.id, name] });
        book.add({ id: object.id, name });
      }
    }
    return found;
  }
}

/** A key out of the text of a list, which may have any letters: those that a key cannot have become dashes. */
export function keyOfText(text: string, target: IntakeTarget): string {
  const key = text.replace(/[^A-Za-z0-9._-]+/g, '-').replace(/^[^A-Za-z0-9]+|-+$/g, '');
  return /^[A-Za-z0-9][A-Za-z0-9._-]{0,63}$/.test(key) ? key : target.keyOf(text) || text;
}
