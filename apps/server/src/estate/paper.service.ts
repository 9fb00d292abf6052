import { Injectable } from '@nestjs/common';
import { kindWords, type Change, type DraftView, type Setting } from '@underpass/contracts';
import { isEmpty, made, rebase, type Conflict, type Misplaced, type ObjectChange } from '@underpass/core';
import type { Draft } from '../database/entities.js';
import { ProblemError } from '../problems/problem.js';
import { EstateStore } from './estate.store.js';
import { assertValid } from './validate.js';

/** Changes on paper: what they would write on the estate as it is now, and whether that would be right. */
@Injectable()
export class PaperService {
  constructor(private readonly store: EstateStore) {}

  /** The objects a change writes. */
  writes(change: Change): ObjectChange[] {
    const { writes, misplaced } = made(this.store.model, change, Date.now());
    if (misplaced[0]) throw problemOf(misplaced);
    return writes;
  }

  /**
   * The objects a change writes that was made from something that may stand beside it.
   * @throws ProblemError 409 where somebody changed that meanwhile
   */
  freshWrites(change: Change): ObjectChange[] {
    const writes = this.writes(change);
    const [first] = rebase(this.store.model, change).conflicts;
    if (first)
      throw new ProblemError(409, 'Changed meanwhile', `${told(first)}. Nothing was overwritten: look at it anew, then apply it again.`);
    return writes;
  }

  /** The change with what stands there now beside what it writes. */
  grounded(change: Change): Change {
    const { change: based, done } = rebase(this.store.model, change);
    // what stands so already is kept too: it may be otherwise when the draft is opened
    return done === 0 ? based : change;
  }

  /** A draft as it stands on the estate of now. */
  draftView({ id, name, crossing, change, createdBy, createdAt, updatedAt }: Draft): DraftView {
    const { change: left, conflicts } = rebase(this.store.model, change);
    return {
      id,
      name,
      crossing,
      change,
      createdBy,
      createdAt: createdAt.toISOString(),
      updatedAt: updatedAt.toISOString(),
      conflicts: conflicts.slice(0, 20).map((each) => ({ kind: each.kind, id: each.id, field: each.field, text: told(each) })),
      done: isEmpty(left),
    };
  }

  /** Throws what a form would say of what the change writes, and of what it supposes of objects. */
  assertGood(change: Change): void {
    const { all, misplaced } = made(this.store.model, change, Date.now());
    if (misplaced[0]) throw problemOf(misplaced);
    assertValid(
      all,
      (kind, id) => this.store.find(kind, id),
      (kind) => this.store.all(kind),
    );
  }
}

/** A conflict in words. */
export function told({ kind, id, field, because, was, now }: Conflict): string {
  const show = (value: unknown) =>
    value === null || value === undefined ? 'nothing' : typeof value === 'object' ? 'something else' : JSON.stringify(value);
  if (because === 'gone') return `${kindWords[kind].one} ${id} is there no more`;
  if (because === 'there already') return `${kindWords[kind].one} ${id} is there already`;
  if (field === null) return `${kindWords[kind].one} ${id} was changed since`;
  return `${kindWords[kind].one} ${id}: ${field} was ${show(was)} and is ${show(now)} now`;
}

const problemOf = (misplaced: readonly Misplaced[]): ProblemError => {
  const [first] = misplaced as [Misplaced];
  return new ProblemError(
    422,
    'Not valid',
    first.because === 'not there' ? `There is no ${first.kind} “${first.id}”.` : `There is a ${first.kind} “${first.id}” already.`,
    misplaced.slice(0, 20).map(({ step, hypothesis, kind, because }) => ({
      field: `change.${hypothesis ? 'hypotheses' : 'patches'}.${step}.id`,
      problem: because === 'not there' ? `no ${kind} has this id` : `a ${kind} with this id is there already`,
    })),
  );
};

/** Objects that a change only adds to or takes from: whatever somebody else wrote beside it stands. */
export function beside(change: Change, writes: readonly ObjectChange[]): ReadonlySet<string> {
  const place = (key: string, layer: string, target: string) => `setting/${key}/${layer}/${target}`;
  const replaced = new Set<string>();
  for (const patch of change.patches)
    if (patch.do === 'create' || patch.do === 'remove' || (patch.do === 'change' && patch.set)) replaced.add(`${patch.kind}/${patch.id}`);
    else if (patch.do === 'setting' && !Array.isArray(patch.value)) replaced.add(place(patch.key, patch.layer, patch.target));
  const isReplaced = ({ kind, id, after }: ObjectChange) => {
    if (replaced.has(`${kind}/${id}`)) return true;
    if (kind !== 'setting' || !after) return false;
    const { key, layer, target } = after as Setting;
    return replaced.has(place(key, layer, target));
  };
  return new Set(writes.flatMap((write) => (isReplaced(write) ? [] : [`${write.kind}/${write.id}`])));
}
