import type { MigrationInterface, QueryRunner } from 'typeorm';

/** Sign-ins with a second factor and a provider, sessions one can see and end, a log of what concerns them, measurements by year. */
export class Doors1764200000000 implements MigrationInterface {
  name = 'Doors1764200000000';

  async up(runner: QueryRunner): Promise<void> {
    // years of measurements are moved: that may take longer than any request may
    await runner.query('SET LOCAL statement_timeout = 0');
    await runner.query(`
      ALTER TABLE app_user
        ALTER COLUMN password_hash DROP NOT NULL,
        ADD COLUMN demo boolean NOT NULL DEFAULT false,
        ADD COLUMN provider text UNIQUE,
        ADD COLUMN factor_secret text,
        ADD COLUMN factor_step bigint NOT NULL DEFAULT 0,
        ADD COLUMN spare_codes text[] NOT NULL DEFAULT '{}';
      UPDATE app_user SET demo = true
      WHERE email IN ('ines.farrow@saltmarsh.example', 'reader@saltmarsh.example', 'admin@saltmarsh.example');
      DROP TABLE app_session;
      CREATE TABLE app_session (
        token_hash text PRIMARY KEY, id uuid NOT NULL UNIQUE, user_id uuid NOT NULL REFERENCES app_user ON DELETE CASCADE,
        created_at timestamptz NOT NULL, expires_at timestamptz NOT NULL, used_at timestamptz NOT NULL, confirmed_at timestamptz NOT NULL,
        address text NOT NULL, device text NOT NULL, provider_session text, provider_token text
      );
      CREATE INDEX app_session_user ON app_session (user_id);
      CREATE TABLE sign_in_try (key text PRIMARY KEY, failures int NOT NULL, free_at timestamptz NOT NULL, last_at timestamptz NOT NULL);
      CREATE TABLE security_event (
        id uuid PRIMARY KEY, at timestamptz NOT NULL, kind text NOT NULL, user_id uuid, who text NOT NULL, address text NOT NULL, about text NOT NULL
      );
      CREATE INDEX security_event_at ON security_event (at DESC);
      CREATE TABLE rule (key text PRIMARY KEY, value jsonb NOT NULL);
      CREATE TABLE erased_verdict (at date NOT NULL, verdict text NOT NULL, count int NOT NULL, PRIMARY KEY (at, verdict));
    `);
    await this.repartition(runner, 'year');
  }

  async down(runner: QueryRunner): Promise<void> {
    await this.repartition(runner, 'month');
    await runner.query(`
      DROP TABLE erased_verdict, rule, security_event, sign_in_try, app_session;
      CREATE TABLE app_session (token_hash text PRIMARY KEY, user_id uuid NOT NULL REFERENCES app_user ON DELETE CASCADE, expires_at timestamptz NOT NULL);
      DELETE FROM app_user WHERE password_hash IS NULL;
      ALTER TABLE app_user DROP COLUMN demo, DROP COLUMN provider, DROP COLUMN factor_secret, DROP COLUMN factor_step, DROP COLUMN spare_codes,
        ALTER COLUMN password_hash SET NOT NULL;
    `);
  }

  /** A partition a month is more than one statement may lock once there are some hundreds; a year holds what is kept in a few. */
  private async repartition(runner: QueryRunner, by: 'year' | 'month'): Promise<void> {
    await runner.query(`
      ALTER TABLE measurement RENAME TO measurement_old;
      ALTER INDEX measurement_pkey RENAME TO measurement_old_pkey;
      ALTER INDEX measurement_location RENAME TO measurement_old_location;
      ALTER INDEX measurement_version RENAME TO measurement_old_version;
      ALTER TABLE measurement_rest RENAME TO measurement_old_rest;
      CREATE TABLE measurement (
        id text NOT NULL, at timestamptz NOT NULL, by_name text NOT NULL, method text NOT NULL, vantage text NOT NULL,
        person text, endpoint text, location text NOT NULL, partial boolean NOT NULL, note text, figures jsonb NOT NULL, version bigint NOT NULL,
        PRIMARY KEY (id, at)
      ) PARTITION BY RANGE (at);
      CREATE TABLE measurement_rest PARTITION OF measurement DEFAULT;
      CREATE INDEX measurement_location ON measurement (location);
      CREATE INDEX measurement_version ON measurement (version);
    `);
    // detached one by one: a statement over all of them at once may be the very thing that does not fit
    const parts = (await runner.query(
      `SELECT c.relname AS name FROM pg_inherits i JOIN pg_class c ON c.oid = i.inhrelid WHERE i.inhparent = 'measurement_old'::regclass`,
    )) as { name: string }[];
    for (const { name } of parts) {
      await runner.query(`ALTER TABLE measurement_old DETACH PARTITION "${name}"`);
      const spans = (await runner.query(
        `SELECT DISTINCT date_trunc('${by}', at AT TIME ZONE 'UTC')::date::text AS first, (date_trunc('${by}', at AT TIME ZONE 'UTC') + interval '1 ${by}')::date::text AS next
         FROM "${name}" WHERE at >= '2000-01-01' AND at < now() + interval '1 day'`,
      )) as { first: string; next: string }[];
      await runner.query(`ALTER TABLE "${name}" RENAME TO measurement_moving`);
      for (const { first, next } of spans)
        await runner.query(
          `CREATE TABLE IF NOT EXISTS measurement_${by === 'year' ? first.slice(0, 4) : first.slice(0, 7).replace('-', '_')} PARTITION OF measurement FOR VALUES FROM ('${first}') TO ('${next}')`,
        );
      // a time that cannot be is not taken along: it never counted, and nothing rests on it
      await runner.query(`
        INSERT INTO measurement SELECT * FROM measurement_moving WHERE at >= '2000-01-01' AND at < now() + interval '1 day';
        DROP TABLE measurement_moving;
      `);
    }
    await runner.query('DROP TABLE measurement_old');
  }
}
