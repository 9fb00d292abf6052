import type { MigrationInterface, QueryRunner } from 'typeorm';

export class Beginning1764000000000 implements MigrationInterface {
  name = 'Beginning1764000000000';

  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`
      CREATE SEQUENCE estate_version_seq;
      CREATE TABLE estate_object (
        kind text NOT NULL, id text NOT NULL, data jsonb NOT NULL, version bigint NOT NULL, deleted boolean NOT NULL DEFAULT false,
        PRIMARY KEY (kind, id)
      );
      CREATE INDEX estate_object_version ON estate_object (version);
      CREATE TABLE change_set (
        id uuid PRIMARY KEY, at timestamptz NOT NULL, by_name text NOT NULL, summary text NOT NULL, undoes uuid REFERENCES change_set, objects int NOT NULL
      );
      CREATE INDEX change_set_at ON change_set (at DESC);
      CREATE UNIQUE INDEX change_set_undoes ON change_set (undoes);
      CREATE TABLE audit_entry (
        id uuid PRIMARY KEY, change_id uuid NOT NULL REFERENCES change_set, kind text NOT NULL, object_id text NOT NULL, before jsonb, after jsonb
      );
      CREATE INDEX audit_entry_change ON audit_entry (change_id);
      CREATE INDEX audit_entry_object ON audit_entry (kind, object_id);
      CREATE TABLE measurement (
        id text NOT NULL, at timestamptz NOT NULL, by_name text NOT NULL, method text NOT NULL, vantage text NOT NULL,
        person text, endpoint text, location text NOT NULL, partial boolean NOT NULL, note text, figures jsonb NOT NULL, version bigint NOT NULL,
        PRIMARY KEY (id, at)
      ) PARTITION BY RANGE (at);
      CREATE TABLE measurement_rest PARTITION OF measurement DEFAULT;
      CREATE INDEX measurement_location ON measurement (location);
      CREATE INDEX measurement_version ON measurement (version);
      CREATE TABLE app_user (id uuid PRIMARY KEY, email text NOT NULL UNIQUE, name text NOT NULL, role text NOT NULL, password_hash text NOT NULL);
      CREATE TABLE app_session (token_hash text PRIMARY KEY, user_id uuid NOT NULL REFERENCES app_user ON DELETE CASCADE, expires_at timestamptz NOT NULL);
      CREATE TABLE check_link (
        id uuid PRIMARY KEY, token_hash text NOT NULL UNIQUE, endpoint text, person text, location text NOT NULL, created_by text NOT NULL,
        created_at timestamptz NOT NULL, expires_at timestamptz NOT NULL, revoked_at timestamptz, opened int NOT NULL DEFAULT 0,
        state text NOT NULL DEFAULT 'not opened', step text NOT NULL DEFAULT ''
      );
      CREATE TABLE draft (id uuid PRIMARY KEY, name text NOT NULL, crossing text, change jsonb NOT NULL, created_by text NOT NULL, created_at timestamptz NOT NULL);
      CREATE TABLE verdict_history (
        crossing text NOT NULL, version bigint NOT NULL, at timestamptz NOT NULL, verdict text NOT NULL, delay_ms real NOT NULL,
        frame_rate real NOT NULL, cause text NOT NULL, PRIMARY KEY (crossing, version)
      );
    `);
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query(
      'DROP TABLE verdict_history, draft, check_link, app_session, app_user, measurement, audit_entry, change_set, estate_object; DROP SEQUENCE estate_version_seq;',
    );
  }
}
