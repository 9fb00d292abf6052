import { Injectable } from '@nestjs/common';
import type { ObjectKind } from '@underpass/contracts';
import { objectChanges, type Change, type ObjectChange } from '@underpass/core';
import { ProblemError } from '../problems/problem.js';
import { EstateStore } from './estate.store.js';
import { assertValid } from './validate.js';

/** Changes made of single edits, as drafts and remedies are: what they write, and whether that would be right. */
@Injectable()
export class EditService {
  constructor(private readonly store: EstateStore) {}

  /** The objects a change writes, from the estate as it is now. */
  writes(change: Change): ObjectChange[] {
    const missing = change.find((edit) => edit.type === 'object' && !this.store.find(edit.kind, edit.id));
    if (missing?.type === 'object')
      throw new ProblemError(422, 'Not valid', `There is no ${missing.kind} “${missing.id}”.`, [
        { field: `change.${change.indexOf(missing)}.id`, problem: `no ${missing.kind} has this id` },
      ]);
    return objectChanges(change, (kind, id) => this.store.find(kind, id), this.store.model.estate.setting);
  }

  /** Throws what a form would say of what the change writes; a hypothesis writes nothing. */
  assertGood(change: Change): void {
    const find = (kind: ObjectKind, id: string) => this.store.find(kind, id);
    assertValid(this.writes(change), find, (kind) => this.store.all(kind));
  }
}
