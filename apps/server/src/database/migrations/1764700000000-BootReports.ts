import type { MigrationInterface, QueryRunner } from 'typeorm';

/** What devices told of their last start: the newest of each. */
export class BootReports1764700000000 implements MigrationInterface {
  name = 'BootReports1764700000000';

  async up(runner: QueryRunner): Promise<void> {
    await runner.query('CREATE TABLE boot_report (endpoint text PRIMARY KEY, at timestamptz NOT NULL, report jsonb NOT NULL)');
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query('DROP TABLE boot_report');
  }
}
