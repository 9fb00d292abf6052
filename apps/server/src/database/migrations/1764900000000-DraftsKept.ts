import type { MigrationInterface, QueryRunner } from 'typeorm';

/** Drafts are worked on: when each was written last, so that two who do do not overwrite each other. */
export class DraftsKept1764900000000 implements MigrationInterface {
  name = 'DraftsKept1764900000000';

  async up(runner: QueryRunner): Promise<void> {
    await runner.query('ALTER TABLE draft ADD COLUMN updated_at timestamptz');
    await runner.query('UPDATE draft SET updated_at = created_at');
    await runner.query('ALTER TABLE draft ALTER COLUMN updated_at SET NOT NULL');
    await runner.query('ALTER TABLE draft ALTER COLUMN updated_at SET DEFAULT now()');
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query('ALTER TABLE draft DROP COLUMN updated_at');
  }
}
