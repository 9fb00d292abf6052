import type { MigrationInterface, QueryRunner } from 'typeorm';

/** Where a measurement went to, and on what medium it was taken. */
export class WhereTo1764500000000 implements MigrationInterface {
  name = 'WhereTo1764500000000';

  async up(runner: QueryRunner): Promise<void> {
    await runner.query('ALTER TABLE measurement ADD COLUMN target text, ADD COLUMN medium text');
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query('ALTER TABLE measurement DROP COLUMN target, DROP COLUMN medium');
  }
}
