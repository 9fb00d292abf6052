import { Injectable } from '@nestjs/common';
import { InjectDataSource } from '@nestjs/typeorm';
import { kindWords, type AuditEntry } from '@underpass/contracts';
import { inverseOf, rebase, type Conflict, type ObjectChange } from '@underpass/core';
import { DataSource } from 'typeorm';
import { EstateStore } from './estate.store.js';

/** Larger changes are taken back by importing the earlier folder. */
const mostUndone = 20_000;
/** Name under which Underpass itself writes, such as the demo estate; nobody takes that back. */
export const ownName = 'Underpass';
/** Name under which sign-ins that portals report are written; they stand in nobody's way and are not taken back. */
export const portalName = 'Portal report';

interface ChangeRow {
  id: string;
  at: Date;
  by_name: string;
  summary: string;
  undoes: string | null;
  undone: boolean;
  n: number;
  objects: AuditEntry['objects'];
}

/** What was changed, by whom, and whether it can be taken back. */
@Injectable()
export class ChangeHistory {
  constructor(
    @InjectDataSource() private readonly data: DataSource,
    private readonly store: EstateStore,
  ) {}

  /** The latest changes, newest first; large ones with their first objects only. */
  async latest(limit: number, object?: { kind: string; id: string }): Promise<AuditEntry[]> {
    const rows: ChangeRow[] = await this.data.query(
      `SELECT c.id, c.at, c.by_name, c.summary, c.undoes, c.objects AS n, EXISTS (SELECT 1 FROM change_set u WHERE u.undoes = c.id) AS undone,
              ARRAY(SELECT jsonb_build_object('kind', kind, 'id', object_id, 'before', before, 'after', after)
                    FROM audit_entry WHERE change_id = c.id AND ($2::text IS NULL OR (kind = $2 AND object_id = $3)) LIMIT 20) AS objects
       FROM change_set c WHERE $2::text IS NULL OR c.id IN (SELECT change_id FROM audit_entry WHERE kind = $2 AND object_id = $3)
       ORDER BY c.version DESC LIMIT $1`,
      [limit, object?.kind ?? null, object?.id ?? null],
    );
    return rows.map((row) => {
      const takeable =
        object === undefined &&
        !row.undoes &&
        !row.undone &&
        row.n > 0 &&
        row.n <= mostUndone &&
        ![ownName, portalName].includes(row.by_name);
      // of large ones that is found out when it is tried
      const rests = takeable && row.n <= row.objects.length ? this.restingOn(row.objects as ObjectChange[]) : null;
      return {
        changeId: row.id,
        at: row.at.toISOString(),
        by: row.by_name,
        summary: row.summary,
        objects: row.objects,
        undone: row.undone,
        canUndo: takeable && rests === null,
        restsOn: rests,
      };
    });
  }

  /** What was written since on the same fields, so that a change cannot be taken back; null where nothing was. */
  private restingOn(writes: readonly ObjectChange[]): string | null {
    const { conflicts } = rebase(this.store.model, { patches: inverseOf(writes), hypotheses: [] });
    return conflicts.length ? toldOf(conflicts) : null;
  }

  /** Who wrote the version of an object that stands now, and what it was before. */
  async lastOf(kind: string, id: string): Promise<{ by: string; at: string; before: object | null } | null> {
    const [row] = (await this.data.query(
      `SELECT c.by_name, c.at, e.before FROM audit_entry e JOIN change_set c ON c.id = e.change_id
       WHERE e.kind = $1 AND e.object_id = $2 ORDER BY c.version DESC LIMIT 1`,
      [kind, id],
    )) as { by_name: string; at: Date; before: object | null }[];
    return row ? { by: row.by_name, at: row.at.toISOString(), before: row.before } : null;
  }
}

/** What stands in the way of taking a change back, in words. */
export function toldOf([first, ...more]: readonly Conflict[]): string {
  if (!first) return '';
  const what =
    first.because === 'gone'
      ? 'is there no more'
      : first.because === 'there already'
        ? 'is there again'
        : `was changed again since${first.field === null ? '' : ` (${first.field})`}`;
  return `${kindWords[first.kind].one} ${first.id} ${what}${more.length ? `, and ${more.length} more` : ''}.`;
}
