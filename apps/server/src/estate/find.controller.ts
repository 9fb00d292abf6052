import { Controller, Get, Query } from '@nestjs/common';
import { ApiTags } from '@nestjs/swagger';
import { FindQuery, FoundObject, kindOrder, kindWords, objectKinds, type ObjectKind } from '@underpass/contracts';
import { catalogue, entryOf, find, findingKinds, wordsIn, type Entry, type EstateModel, type Findable } from '@underpass/core';
import { Answers } from '../edge/answers.js';
import { inSlices } from '../jobs/slices.js';
import { EstateStore } from './estate.store.js';

/** People first, then the kinds in the order people look for them. */
const kinds: ObjectKind[] = [...new Set<ObjectKind>(['person', 'endpoint', ...kindOrder, ...objectKinds])];
const mostFound = 20;

/** What ships with the product and is found by name as well: settings, and findings with the crossings they are on. */
const shipped: readonly Entry[] = [
  ...Object.entries(catalogue).map(([key, { label, symptoms = [] }]) => ({
    kind: 'setting',
    id: key,
    name: label,
    // found by what people complain of as well
    detail: symptoms.join(', '),
    path: `/settings?key=${key}`,
  })),
  ...findingKinds.map(({ kind }) => ({
    kind: 'finding',
    id: kind,
    name: (kind[0] as string).toUpperCase() + kind.slice(1),
    detail: '',
    path: `/crossings?kind=${encodeURIComponent(kind)}`,
  })),
].map(entryOf);

@ApiTags('estate')
@Controller('find')
export class FindController {
  /** Objects are never changed, so that what was made ready of one stands as long as it does. */
  private readonly ready = new WeakMap<object, { entry: Entry; place: string }>();
  private readonly entries = new WeakMap<EstateModel, Promise<Entry[]>>();
  private readonly words = new WeakMap<EstateModel, Set<string>>();

  constructor(private readonly store: EstateStore) {}

  /** What is called by the words, or nearly so: objects of the estate, people first, settings and findings. */
  @Get()
  @Answers(FoundObject.array())
  async find(@Query({ schema: FindQuery }) { q }: FindQuery): Promise<FoundObject[]> {
    const { model } = this.store;
    let made = this.entries.get(model);
    if (!made) {
      made = inSlices(this.entriesOf(model));
      this.entries.set(model, made);
    }
    const entries = await made;
    return find(entries, q, mostFound, () => this.wordsOf(model, entries));
  }

  private *entriesOf(model: EstateModel): Generator<void, Entry[]> {
    const entries: Entry[] = [];
    for (const kind of kinds) {
      for (const object of model.all(kind).values() as Iterable<{ id: string; name?: string; location?: string; key?: string }>) {
        const place = object.location ? (model.locations.get(object.location)?.name ?? object.location) : '';
        const known = this.ready.get(object);
        const entry = known?.place === place ? known.entry : entryOf(findableOf(kind, object, place));
        if (entry !== known?.entry) this.ready.set(object, { entry, place });
        entries.push(entry);
        if (entries.length % 256 === 0) yield;
      }
    }
    return [...entries, ...shipped];
  }

  private wordsOf(model: EstateModel, entries: readonly Entry[]): Set<string> {
    const known = this.words.get(model) ?? new Set(entries.flatMap(wordsIn));
    this.words.set(model, known);
    return known;
  }
}

function findableOf(kind: ObjectKind, { id, name, key }: { id: string; name?: string; key?: string }, place: string): Findable {
  const label = key && Object.hasOwn(catalogue, key) ? catalogue[key as keyof typeof catalogue].label : key;
  return { kind: kindWords[kind].one.toLowerCase(), id, name: name ?? label ?? id, detail: place, path: pathOf(kind, id) };
}

function pathOf(kind: ObjectKind, id: string): string {
  if (kind === 'person') return `/crossings?person=${encodeURIComponent(id)}`;
  if (kind === 'location') return `/crossings?location=${encodeURIComponent(id)}`;
  if (kind === 'resource') return `/crossings?resource=${encodeURIComponent(id)}`;
  return `/estate/${kind}/${encodeURIComponent(id)}`;
}
