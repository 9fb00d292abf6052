import type { MigrationInterface, QueryRunner } from 'typeorm';

/** The order of changes is the one in which they were written, whatever the clocks of the servers said. */
export class Order1765400000000 implements MigrationInterface {
  name = 'Order1765400000000';

  async up(runner: QueryRunner): Promise<void> {
    // of earlier ones only their times are known; each had a version of its own, so theirs stay below the next
    await runner.query(`
      ALTER TABLE change_set ADD COLUMN version bigint;
      UPDATE change_set c SET version = o.n FROM (SELECT id, row_number() OVER (ORDER BY at, id) AS n FROM change_set) o WHERE o.id = c.id;
      ALTER TABLE change_set ALTER COLUMN version SET NOT NULL;
      CREATE INDEX change_set_version ON change_set (version DESC);
    `);
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query('ALTER TABLE change_set DROP COLUMN version');
  }
}
