import type { MigrationInterface, QueryRunner } from 'typeorm';

/** Lists that somebody is taking in, kept for a day; and mappings of lists, kept by name. */
export class Lists1765000000000 implements MigrationInterface {
  name = 'Lists1765000000000';

  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`
      CREATE TABLE taken_list (id uuid PRIMARY KEY, name text NOT NULL, by_name text NOT NULL, at timestamptz NOT NULL, bytes bytea NOT NULL);
      CREATE TABLE table_map (name text NOT NULL, map jsonb NOT NULL, by_name text NOT NULL, at timestamptz NOT NULL);
      CREATE UNIQUE INDEX table_map_name ON table_map (lower(name));
    `);
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query('DROP TABLE table_map; DROP TABLE taken_list');
  }
}
