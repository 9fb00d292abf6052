import type { MigrationInterface, QueryRunner } from 'typeorm';

/** The bytes of firmware files, in the pieces in which they came. */
export class FirmwareFiles1764800000000 implements MigrationInterface {
  name = 'FirmwareFiles1764800000000';

  async up(runner: QueryRunner): Promise<void> {
    await runner.query(
      'CREATE TABLE firmware_file (id text PRIMARY KEY, total bigint NOT NULL, here bigint NOT NULL DEFAULT 0, sha256 text, at timestamptz NOT NULL)',
    );
    await runner.query(
      `CREATE TABLE firmware_piece (
         file text NOT NULL REFERENCES firmware_file (id) ON DELETE CASCADE, begins bigint NOT NULL, bytes bytea NOT NULL,
         PRIMARY KEY (file, begins))`,
    );
    // what is packed already is not packed again
    await runner.query('ALTER TABLE firmware_piece ALTER COLUMN bytes SET STORAGE EXTERNAL');
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query('DROP TABLE firmware_piece');
    await runner.query('DROP TABLE firmware_file');
  }
}
