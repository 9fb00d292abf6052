import type { MigrationInterface, QueryRunner } from 'typeorm';

/** Directories that are read or that send, what of them stands for what here, and what they sent. */
export class Feeds1765200000000 implements MigrationInterface {
  name = 'Feeds1765200000000';

  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`
      CREATE TABLE feed (
        id uuid PRIMARY KEY, kind text NOT NULL, name text NOT NULL, options jsonb NOT NULL, secret text, token_hash text UNIQUE,
        by_name text NOT NULL, at timestamptz NOT NULL, last_at timestamptz, next_at timestamptz, last jsonb
      );
      CREATE UNIQUE INDEX feed_name ON feed (lower(name));
      CREATE TABLE feed_link (
        feed uuid NOT NULL REFERENCES feed ON DELETE CASCADE, kind text NOT NULL, key text NOT NULL, object_id text NOT NULL, made boolean NOT NULL,
        PRIMARY KEY (feed, kind, key)
      );
      CREATE INDEX feed_link_object ON feed_link (kind, object_id);
      CREATE TABLE scim_resource (
        feed uuid NOT NULL REFERENCES feed ON DELETE CASCADE, kind text NOT NULL, id text NOT NULL, name_key text NOT NULL, external_id text,
        data jsonb NOT NULL, version int NOT NULL, created_at timestamptz NOT NULL, changed_at timestamptz NOT NULL, PRIMARY KEY (feed, id)
      );
      CREATE UNIQUE INDEX scim_user_name ON scim_resource (feed, name_key) WHERE kind = 'User';
      CREATE INDEX scim_list ON scim_resource (feed, kind, created_at, id);
      CREATE INDEX scim_name ON scim_resource (feed, kind, name_key);
      CREATE INDEX scim_external ON scim_resource (feed, kind, external_id);
      CREATE TABLE scim_member (
        feed uuid NOT NULL, group_id text NOT NULL, member_id text NOT NULL, PRIMARY KEY (feed, group_id, member_id),
        FOREIGN KEY (feed, group_id) REFERENCES scim_resource ON DELETE CASCADE, FOREIGN KEY (feed, member_id) REFERENCES scim_resource ON DELETE CASCADE
      );
      CREATE INDEX scim_member_of ON scim_member (feed, member_id);
    `);
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query('DROP TABLE scim_member; DROP TABLE scim_resource; DROP TABLE feed_link; DROP TABLE feed');
  }
}
