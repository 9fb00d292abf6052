import type { MigrationInterface, QueryRunner } from 'typeorm';

/** Files that long work came to, kept until whoever asked has taken them. */
export class Exports1764400000000 implements MigrationInterface {
  name = 'Exports1764400000000';

  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`
      CREATE TABLE job_file (
        job uuid PRIMARY KEY REFERENCES job ON DELETE CASCADE, at timestamptz NOT NULL, name text NOT NULL, media text NOT NULL,
        content bytea NOT NULL
      );
      CREATE INDEX job_file_at ON job_file (at);
    `);
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query(`
      DROP TABLE job_file;
      DELETE FROM job WHERE kind IN ('export', 'log export');
    `);
  }
}
