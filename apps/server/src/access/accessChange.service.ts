import { Injectable } from '@nestjs/common';
import type { AccessChange, ConsequenceView, Estate } from '@underpass/contracts';
import {
  AccessIndex,
  computeFigures,
  consequenceOf,
  editsOfMove,
  FactsReader,
  modelOf,
  noCounts,
  sentenceOf,
  evaluateCrossing,
  withAccessEdits,
  type AccessEdit,
  type ObjectChange,
} from '@underpass/core';
import { eachInSlices } from '../crossing/wholeEstate.js';
import { EstateStore } from '../estate/estate.store.js';
import { assertValid } from '../estate/validate.js';
import { notFound, ProblemError } from '../problems/problem.js';
import { named } from './naming.js';

const mostRows = 200;

/** Changes of who sees what: worked out on paper first, then written. */
@Injectable()
export class AccessChangeService {
  constructor(private readonly store: EstateStore) {}

  /** The edits a change comes to, on objects that exist. */
  edits({ move, edits }: AccessChange): AccessEdit[] {
    const { access, groups } = this.store.model;
    if (!move) {
      for (const { kind, id } of edits ?? []) if (!this.store.find(kind, id)) throw notFound(kind, id);
      return edits ?? [];
    }
    for (const group of [move.leave, move.join]) if (group !== null && !groups.has(group)) throw notFound('group', group);
    for (const id of move.people ?? []) if (!access.people.has(id)) throw notFound('person', id);
    const people = move.people ?? access.estate.person.filter((person) => person.groups.includes(move.leave as string)).map(({ id }) => id);
    const result = editsOfMove(access, { people, leave: move.leave, join: move.join });
    if (result.length === 0) throw new ProblemError(422, 'Nothing to change', 'This move changes nobody: they are placed so already.');
    return result;
  }

  /** The objects a change writes. */
  writes(change: AccessChange): ObjectChange[] {
    const writes = new Map<string, ObjectChange>();
    for (const { kind, id, field, value } of this.edits(change)) {
      const key = `${kind}/${id}`;
      const before = this.store.find(kind, id) ?? null;
      const known = writes.get(key);
      writes.set(key, { kind, id, before, after: { ...(known?.after ?? before), id, [field]: [...value] } });
    }
    return [...writes.values()];
  }

  /** Throws what a form would say of single edits; a move names only what is there. */
  assertGood(change: AccessChange): void {
    if (!change.move)
      assertValid(
        this.writes(change),
        (kind, id) => this.store.find(kind, id),
        (kind) => this.store.all(kind),
      );
  }

  async consequence(change: AccessChange): Promise<ConsequenceView> {
    const { model } = this.store;
    this.assertGood(change);
    const edits = this.edits(change);
    const estate: Estate = withAccessEdits(model.estate, edits);
    const rows = consequenceOf(model.access, new AccessIndex(estate), (id) => model.resources.get(id)?.kind === 'desktop');
    const names = (ids: readonly string[]) => ids.map((id) => named(model, 'resource', id).name);
    return {
      version: this.store.version,
      edits: edits.length,
      people: rows.length,
      rows: rows.slice(0, mostRows).map(({ person, gains, loses, desktops }) => ({
        person: named(model, 'person', person),
        gains: names(gains),
        loses: names(loses),
        desktops: names(desktops),
        at: 'next sign-in',
      })),
      ...(await this.gained(estate, new Map(rows.map(({ person, gains }) => [person, new Set(gains)])))),
    };
  }

  /** How the crossings that would be new turn out. */
  private async gained(
    estate: Estate,
    gains: ReadonlyMap<string, ReadonlySet<string>>,
  ): Promise<Pick<ConsequenceView, 'verdicts' | 'worst'>> {
    const reader = new FactsReader(modelOf(estate, this.store.allMeasurements()), Date.now());
    const verdicts = noCounts();
    const worst = new Map<string, ConsequenceView['worst'][number]>();
    const fresh = [...gains].flatMap(([person, resources]) =>
      (reader.model.crossingsOf.get(person) ?? []).filter(({ resource }) => resources.has(resource)),
    );
    await eachInSlices(fresh, (ref) => {
      const facts = reader.read(ref);
      if (!facts) return;
      const { verdict } = computeFigures(facts);
      verdicts[verdict]++;
      if (verdict === 'clear') return;
      const sentence = sentenceOf(facts, evaluateCrossing(facts));
      const known = worst.get(sentence);
      if (known) known.people++;
      else worst.set(sentence, { verdict, sentence, people: 1, first: facts.person.name });
    });
    const order = ['blocked', 'limited', 'unknown'];
    const told = [...worst.values()].sort((x, y) => order.indexOf(x.verdict) - order.indexOf(y.verdict) || y.people - x.people);
    return { verdicts, worst: told.slice(0, 8) };
  }
}
