import type { MigrationInterface, QueryRunner } from 'typeorm';

/**
 * Groups held resources; now they hold publications, which hold resources and are attached to portals. What an estate had goes
 * on: every resource becomes a publication of its own, attached to a portal of its pool's gateway.
 */
export class Access1764100000000 implements MigrationInterface {
  name = 'Access1764100000000';

  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`
      INSERT INTO estate_object (kind, id, data, version)
      SELECT 'portal', id, jsonb_build_object('id', id, 'name', left(data->>'name', 110) || ' portal', 'gateway', id, 'address', data->>'address'),
             nextval('estate_version_seq')
      FROM estate_object WHERE kind = 'gateway' AND NOT deleted;
      INSERT INTO estate_object (kind, id, data, version)
      SELECT 'publication', r.id, jsonb_build_object('id', r.id, 'name', r.data->>'name',
               'kind', CASE r.data->>'kind' WHEN 'desktop' THEN 'desktop' ELSE 'apps' END, 'pool', r.data->>'pool',
               'resources', jsonb_build_array(r.id), 'portals', jsonb_build_array(p.data->>'gateway')),
             nextval('estate_version_seq')
      FROM estate_object r JOIN estate_object p ON p.kind = 'pool' AND p.id = r.data->>'pool' AND NOT p.deleted
      WHERE r.kind = 'resource' AND NOT r.deleted;
      UPDATE estate_object SET version = nextval('estate_version_seq'),
             data = (data - 'resources') || jsonb_build_object('memberOf', '[]'::jsonb, 'publications', coalesce(data->'resources', '[]'::jsonb))
      WHERE kind = 'group';
      UPDATE estate_object SET version = nextval('estate_version_seq'),
             data = data || jsonb_build_object('signIn', jsonb_build_array('own directory'), 'signInGroups', '[]'::jsonb)
      WHERE kind = 'pool';
      ALTER TABLE draft ADD COLUMN access jsonb;
      CREATE TABLE entry_link (
        id text PRIMARY KEY, publication text NOT NULL, resource text NOT NULL, target_kind text NOT NULL, target text NOT NULL,
        caption text NOT NULL, created_by text NOT NULL, created_at timestamptz NOT NULL, expires_at timestamptz NOT NULL,
        revoked_at timestamptz, opened int NOT NULL DEFAULT 0, opened_at timestamptz
      );
      CREATE INDEX entry_link_created ON entry_link (created_at DESC);
      CREATE TABLE sighting (
        id uuid PRIMARY KEY, at timestamptz NOT NULL, person text NOT NULL, portal text NOT NULL, outcome text NOT NULL,
        saw text[] NOT NULL, opened text, steps jsonb NOT NULL
      );
      CREATE INDEX sighting_person ON sighting (person, at DESC);
      CREATE TABLE acceptance_run (
        id uuid PRIMARY KEY, started_at timestamptz NOT NULL, started_by text NOT NULL, optimal boolean NOT NULL, testers jsonb NOT NULL,
        signed_off_at timestamptz, signed_off_by text
      );
      CREATE INDEX acceptance_run_started ON acceptance_run (started_at DESC);
    `);
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query(`
      DROP TABLE acceptance_run, sighting, entry_link;
      DELETE FROM draft WHERE access IS NOT NULL;
      ALTER TABLE draft DROP COLUMN access;
      UPDATE estate_object g SET version = nextval('estate_version_seq'),
             data = (data - 'memberOf' - 'publications') || jsonb_build_object('resources', coalesce((
               SELECT jsonb_agg(DISTINCT r) FROM jsonb_array_elements_text(data->'publications') held
               JOIN estate_object p ON p.kind = 'publication' AND p.id = held, jsonb_array_elements(p.data->'resources') r), '[]'::jsonb))
      WHERE kind = 'group';
      DELETE FROM estate_object WHERE kind IN ('portal', 'publication', 'session', 'signedIn', 'requirement');
    `);
  }
}
