import type { MigrationInterface, QueryRunner } from 'typeorm';

/** Keys with which devices report, and the devices that did. */
export class Enrolment1765300000000 implements MigrationInterface {
  name = 'Enrolment1765300000000';

  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`
      CREATE TABLE enrol_batch (
        id uuid PRIMARY KEY, name text NOT NULL, token_hash text NOT NULL UNIQUE, most int NOT NULL, used int NOT NULL DEFAULT 0, location text,
        by_name text NOT NULL, at timestamptz NOT NULL, expires_at timestamptz NOT NULL, revoked_at timestamptz
      );
      CREATE TABLE enrol_device (
        id uuid PRIMARY KEY, batch uuid NOT NULL REFERENCES enrol_batch, device_key text NOT NULL UNIQUE, name text NOT NULL, report jsonb NOT NULL,
        address text NOT NULL, first_at timestamptz NOT NULL, at timestamptz NOT NULL, state text NOT NULL, endpoint text
      );
      CREATE INDEX enrol_device_state ON enrol_device (state, at);
      CREATE INDEX enrol_device_endpoint ON enrol_device (endpoint);
    `);
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query('DROP TABLE enrol_device; DROP TABLE enrol_batch');
  }
}
