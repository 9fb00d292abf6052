import type { MigrationInterface, QueryRunner } from 'typeorm';

type Edit = { type: string; [field: string]: unknown };
type Access = {
  move?: { people?: string[]; leave: string | null; join: string | null };
  edits?: { kind: string; id: string; field: string; value: string[] }[];
};
type Change = { patches: Record<string, unknown>[]; hypotheses: Record<string, unknown>[] };

/** What an edit of before is as a step; what was only supposed of a crossing names no place, so it goes. */
function stepOf(edit: Edit): Record<string, unknown>[] {
  if (edit.type === 'setting') return [{ do: 'setting', key: edit.key, layer: edit.layer, target: edit.target, value: edit.value }];
  if (edit.type === 'object') return [{ do: 'change', kind: edit.kind, id: edit.id, set: { [edit.field as string]: edit.value } }];
  return [];
}

/** There were two forms of a change; now there is one. And time alone moves verdicts, at one and the same version of the estate. */
export class OneChange1764300000000 implements MigrationInterface {
  name = 'OneChange1764300000000';

  async up(runner: QueryRunner): Promise<void> {
    const drafts = (await runner.query('SELECT id, change, access FROM draft')) as { id: string; change: Edit[]; access: Access | null }[];
    for (const { id, change, access } of drafts) {
      const patches = access?.move
        ? [{ do: 'move', ...access.move }]
        : access?.edits
          ? access.edits.map(({ kind, id: object, field, value }) => ({ do: 'change', kind, id: object, set: { [field]: value } }))
          : change.flatMap(stepOf);
      if (patches.length)
        await runner.query('UPDATE draft SET change = $2 WHERE id = $1', [id, JSON.stringify({ patches, hypotheses: [] })]);
      else await runner.query('DELETE FROM draft WHERE id = $1', [id]);
    }
    await runner.query(`
      ALTER TABLE draft DROP COLUMN access;
      ALTER TABLE verdict_history ADD COLUMN moment bigint NOT NULL DEFAULT 0;
      ALTER TABLE verdict_history DROP CONSTRAINT verdict_history_pkey, ADD PRIMARY KEY (crossing, version, moment);
      CREATE TABLE job (
        id uuid PRIMARY KEY, kind text NOT NULL, name text NOT NULL, by_name text NOT NULL, created_at timestamptz NOT NULL, state text NOT NULL,
        step text NOT NULL, done int NOT NULL, total int NOT NULL, request jsonb NOT NULL, input bytea, result jsonb, message text,
        cancel boolean NOT NULL DEFAULT false
      );
      CREATE INDEX job_created ON job (created_at DESC);
      CREATE TABLE job_worker (id text PRIMARY KEY, at timestamptz NOT NULL);
    `);
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query(`
      DROP TABLE job, job_worker;
      ALTER TABLE draft ADD COLUMN access jsonb;
      DELETE FROM verdict_history WHERE moment <> 0;
      ALTER TABLE verdict_history DROP CONSTRAINT verdict_history_pkey, ADD PRIMARY KEY (crossing, version);
      ALTER TABLE verdict_history DROP COLUMN moment;
    `);
    const drafts = (await runner.query('SELECT id, change FROM draft')) as { id: string; change: Change }[];
    for (const { id, change } of drafts) {
      const [move] = change.patches.filter((patch) => patch.do === 'move');
      const edits = change.patches.flatMap((patch): Edit[] => {
        if (patch.do === 'setting')
          return [{ type: 'setting', key: patch.key, layer: patch.layer, target: patch.target, value: patch.value }];
        if (patch.do !== 'change') return [];
        return Object.entries((patch.set ?? {}) as object).map(([field, value]) => ({
          type: 'object',
          kind: patch.kind,
          id: patch.id,
          field,
          value: value as unknown,
        }));
      });
      if (move) {
        const { people, leave, join } = move as Access['move'] & object;
        await runner.query(`UPDATE draft SET change = '[]', access = $2 WHERE id = $1`, [
          id,
          JSON.stringify({ move: { ...(people ? { people } : {}), leave, join } }),
        ]);
      } else if (edits.length) await runner.query('UPDATE draft SET change = $2 WHERE id = $1', [id, JSON.stringify(edits)]);
      else await runner.query('DELETE FROM draft WHERE id = $1', [id]);
    }
  }
}
