import { Injectable } from '@nestjs/common';
import { listColumns, references, type ObjectKind, type ObjectPage, type ObjectQuery } from '@underpass/contracts';
import type { EstateModel } from '@underpass/core';
import { ProblemError } from '../problems/problem.js';
import { orderSteps, sortKey, type SortKey } from '../jobs/order.js';
import { inSlices } from '../jobs/slices.js';
import { EstateStore } from './estate.store.js';

type Filter = Pick<ObjectQuery, 'search' | 'ids' | 'where'>;
type Plain = Record<string, unknown> & { id: string };

const at = (object: object, field: string): unknown =>
  field.split('.').reduce<unknown>((inner, key) => (inner as Record<string, unknown> | null | undefined)?.[key], object);

/** The objects of a kind as lists show them: sought through, filtered, in any order, with the names of what they name. */
@Injectable()
export class Listing {
  /** Orders are kept while the estate they are of is the newest. */
  private readonly orders = new WeakMap<EstateModel, Map<string, Promise<Plain[]>>>();

  constructor(private readonly store: EstateStore) {}

  async page(kind: ObjectKind, query: ObjectQuery): Promise<ObjectPage> {
    const rows: Plain[] = [];
    let total = 0;
    const passes = this.filterOf(kind, query);
    for (const object of await this.ordered(kind, query.sort)) {
      if (!passes(object)) continue;
      if (total >= query.offset && rows.length < query.limit) rows.push(object);
      total++;
    }
    return { total, rows, names: this.namesIn(kind, rows) };
  }

  /** All that fit, in their order. */
  async all(kind: ObjectKind, query: Filter & { sort?: string | undefined }): Promise<object[]> {
    return (await this.ordered(kind, query.sort)).filter(this.filterOf(kind, query));
  }

  private ordered(kind: ObjectKind, sort: string | undefined): Promise<Plain[]> {
    const { model } = this.store;
    const kept = this.orders.get(model) ?? new Map<string, Promise<Plain[]>>();
    this.orders.set(model, kept);
    const name = `${kind} ${sort ?? ''}`;
    const known = kept.get(name);
    if (known) return known;
    const order = this.order([...(model.all(kind).values() as Iterable<Plain>)], kind, sort);
    // as many columns as a kind has, both ways round, and no more however the address is written
    if (kept.size < 200) kept.set(name, order);
    return order;
  }

  private async order(objects: Plain[], kind: ObjectKind, sort: string | undefined): Promise<Plain[]> {
    if (!sort) return objects;
    const [field, way] = sort.startsWith('-') ? [sort.slice(1), -1 as const] : [sort, 1 as const];
    const to = references[kind][field];
    const path = field.split('.');
    // most columns hold few different values
    const known = new Map<unknown, SortKey>();
    const keyOf = (value: unknown): SortKey => {
      if (typeof value !== 'string') return sortKey(value);
      let key = known.get(value);
      if (key === undefined) known.set(value, (key = sortKey(to ? (this.nameOf(to, value) ?? value) : value)));
      return key;
    };
    return inSlices(
      orderSteps(
        objects,
        (object) => keyOf(path.length === 1 ? object[field] : at(object, field)),
        ({ id }) => id,
        way,
      ),
    );
  }

  private nameOf(kind: ObjectKind, id: string): string | undefined {
    return (this.store.find(kind, id) as { name?: string } | undefined)?.name;
  }

  private filterOf(kind: ObjectKind, { search, ids, where }: Filter): (object: Plain) => boolean {
    const wanted = search?.toLowerCase().split(/\s+/).filter(Boolean) ?? [];
    const among = ids === undefined ? null : new Set(ids.split(','));
    const held = (where === undefined ? [] : [where].flat()).map((each): [string, string] => {
      const colon = each.indexOf(':');
      if (colon < 1)
        throw new ProblemError(400, 'Not valid', 'A filter names a field and a value, such as location:wexcombe.', [
          { field: 'where', problem: `“${each.slice(0, 60)}” has no field and value` },
        ]);
      return [each.slice(0, colon), each.slice(colon + 1)];
    });
    const names = Object.entries(references[kind]);
    return (object) => {
      if (among && !among.has(object.id)) return false;
      for (const [field, value] of held) {
        const content = at(object, field);
        if (Array.isArray(content) ? !content.includes(value) : String((content ?? '') as string) !== value) return false;
      }
      if (wanted.length === 0) return true;
      const texts = ['id', 'name', 'key', 'target'].map((field) => object[field]);
      const named = names.map(([field, to]) => {
        const id = at(object, field);
        return typeof id === 'string' ? `${id} ${this.nameOf(to, id) ?? ''}` : '';
      });
      const text = [...texts, ...named]
        .filter((each) => typeof each === 'string')
        .join(' ')
        .toLowerCase();
      return wanted.every((word) => text.includes(word));
    };
  }

  /** Names of the objects that rows name in the columns of their list, by kind and id. */
  private namesIn(kind: ObjectKind, rows: readonly Plain[]): ObjectPage['names'] {
    const names: ObjectPage['names'] = {};
    for (const [field, to] of Object.entries(references[kind])) {
      if (!listColumns[kind].some(([column]) => column === field)) continue;
      const of = (names[to] ??= {});
      for (const row of rows)
        for (const id of [at(row, field)].flat())
          if (typeof id === 'string') {
            const name = this.nameOf(to, id);
            if (name !== undefined) of[id] = name;
          }
    }
    return names;
  }
}
