import type { MigrationInterface, QueryRunner } from 'typeorm';

/**
 * What each source says of each object, and which of them decides. What was changed by hand before counts as typed: changes of few
 * objects that no import and no list made.
 */
export class Sources1765100000000 implements MigrationInterface {
  name = 'Sources1765100000000';

  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`
      CREATE TABLE said (
        kind text NOT NULL, object_id text NOT NULL, source text NOT NULL, fields jsonb NOT NULL, PRIMARY KEY (kind, object_id, source)
      );
      CREATE TABLE source_order (one boolean PRIMARY KEY DEFAULT true CHECK (one), content jsonb NOT NULL, by_name text NOT NULL, at timestamptz NOT NULL);
      INSERT INTO said (kind, object_id, source, fields)
        SELECT kind, object_id, 'typed', jsonb_object_agg(key, jsonb_build_object('value', value, 'at', at, 'by', by_name) ORDER BY at)
        FROM (
          SELECT e.kind, e.object_id, f.key, f.value, c.by_name, to_char(c.at AT TIME ZONE 'UTC', 'YYYY-MM-DD"T"HH24:MI:SS"Z"') AS at
          FROM audit_entry e JOIN change_set c ON c.id = e.change_id JOIN estate_object o ON o.kind = e.kind AND o.id = e.object_id AND NOT o.deleted
          CROSS JOIN LATERAL jsonb_each(e.after) f
          WHERE e.after IS NOT NULL AND e.before IS NOT NULL AND c.objects <= 100 AND c.by_name NOT IN ('Underpass', 'Portal report', 'Inbox')
            AND c.summary NOT LIKE 'Import of %' AND c.summary NOT LIKE 'List %' AND f.key NOT IN ('id', 'assumed', 'wifi')
            AND e.before->f.key IS DISTINCT FROM f.value AND e.kind NOT IN ('session', 'signedIn')
        ) typed GROUP BY kind, object_id;
    `);
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query('DROP TABLE source_order; DROP TABLE said');
  }
}
