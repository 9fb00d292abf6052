import type { MigrationInterface, QueryRunner } from 'typeorm';

/** Views that people keep by name. */
export class Views1764600000000 implements MigrationInterface {
  name = 'Views1764600000000';

  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`
      CREATE TABLE kept_view (
        id uuid PRIMARY KEY, user_id uuid NOT NULL REFERENCES app_user ON DELETE CASCADE, name text NOT NULL, path text NOT NULL,
        search text NOT NULL, for_all boolean NOT NULL, at timestamptz NOT NULL
      );
      CREATE UNIQUE INDEX kept_view_name ON kept_view (user_id, path, lower(name));
    `);
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query('DROP TABLE kept_view');
  }
}
