import { peopleExports } from '@underpass/contracts';
import type { EntityManager } from 'typeorm';
import { dropRow } from '../intake/scim/scimStore.js';

/** What stands for people whose data were taken out. */
export const nobody = 'erased';

/**
 * Takes a person out of everything but the estate as it stands: measurements stay without them, verdicts stay as counts a day,
 * the history of changes keeps that something was changed, not whom. For use under the lock of changes.
 */
export async function forgetPerson(manager: EntityManager, id: string, names: readonly string[]): Promise<void> {
  const run = (sql: string, parameters: unknown[]) => manager.query(sql, parameters);
  await run(
    `UPDATE measurement SET person = NULL, by_name = CASE WHEN by_name = ANY($2) THEN 'somebody' ELSE by_name END, note = NULL WHERE person = $1`,
    [id, names],
  );
  await run('DELETE FROM sighting WHERE person = $1', [id]);
  // what sources say of them, and of devices that are theirs
  await run(`DELETE FROM said WHERE kind IN ('person', 'signedIn') AND object_id = $1`, [id]);
  await run(
    `UPDATE said SET fields = CASE WHEN fields->'person'->>'value' = $1 THEN fields - 'person' ELSE fields END - CASE WHEN fields->'users'->'value' ? $1 THEN 'users' ELSE '' END
     WHERE kind = 'endpoint' AND (fields->'person'->>'value' = $1 OR fields->'users'->'value' ? $1)`,
    [id],
  );
  await run(`UPDATE said SET fields = fields - 'guest' WHERE kind = 'person' AND fields->'guest'->'value'->>'owner' = $1`, [id]);
  // what directories sent of them
  const sent = (await run(`SELECT feed, key FROM feed_link WHERE kind = 'person' AND object_id = $1`, [id])) as {
    feed: string;
    key: string;
  }[];
  for (const { feed, key } of sent) await dropRow(manager, feed, key);
  await run(`DELETE FROM feed_link WHERE kind = 'person' AND object_id = $1`, [id]);
  // remarks of its last run may name anybody
  await run(`UPDATE feed SET last = jsonb_set(last, '{notes}', '[]') WHERE last IS NOT NULL`, []);
  await run('UPDATE check_link SET person = NULL WHERE person = $1', [id]);
  await run(`DELETE FROM entry_link WHERE target_kind = 'person' AND target = $1`, [id]);
  await run(
    `UPDATE acceptance_run SET testers = (
       SELECT jsonb_agg(CASE WHEN t->>'person' = $1 THEN (t - 'note') || jsonb_build_object('person', $2::text) ELSE t END) FROM jsonb_array_elements(testers) t)
     WHERE testers @> jsonb_build_array(jsonb_build_object('person', $1::text))`,
    [id, nobody],
  );
  await run(`DELETE FROM draft WHERE split_part(crossing, '~', 1) = $1 OR change::text LIKE $2`, [id, `%"${id}"%`]);
  // lists that were filtered by them or sought their name, as an address writes it
  await run('DELETE FROM kept_view WHERE search ~ $1', [`=${id.replaceAll('.', '\\.')}(&|$)`]);
  for (const name of names)
    if (name)
      await run('DELETE FROM kept_view WHERE position(lower($1) in lower(search)) > 0 OR position(lower($2) in lower(search)) > 0', [
        encodeURIComponent(name),
        name.replaceAll(' ', '+'),
      ]);
  // files that are being made may have them in them
  await run(`UPDATE job SET cancel = true WHERE kind = ANY($1) AND state IN ('waiting', 'running')`, [peopleExports]);
  await run('DELETE FROM job_file USING job WHERE job.id = job_file.job AND job.kind = ANY($1)', [peopleExports]);
  // lists on their way in are sealed, and may have anybody in them
  await run('DELETE FROM taken_list', []);
  // what long work was asked for or came to with them in it
  await run(`DELETE FROM job WHERE request::text LIKE $1 OR result::text LIKE $1`, [`%"${id}"%`]);
  await run(
    `INSERT INTO erased_verdict (at, verdict, count)
       SELECT at::date, verdict, count(*) FROM verdict_history WHERE split_part(crossing, '~', 1) = $1 GROUP BY 1, 2
     ON CONFLICT (at, verdict) DO UPDATE SET count = erased_verdict.count + excluded.count`,
    [id],
  );
  await run(`DELETE FROM verdict_history WHERE split_part(crossing, '~', 1) = $1`, [id]);
  // what was written about them, and the row that marks them as removed
  for (const name of names)
    if (name) await run('UPDATE change_set SET summary = replace(summary, $1, $2) WHERE position($1 in summary) > 0', [name, 'somebody']);
  await run(
    `UPDATE audit_entry SET object_id = $2, before = NULL, after = NULL
     WHERE (kind IN ('person', 'signedIn') AND object_id = $1) OR (kind = 'session' AND $1 IN (before->>'person', after->>'person'))
        OR (kind = 'setting' AND 'person' IN (before->>'layer', after->>'layer') AND $1 IN (before->>'target', after->>'target'))`,
    [id, nobody],
  );
  await run(
    `UPDATE audit_entry SET before = CASE WHEN before->>'person' = $1 THEN before - 'person' ELSE before END,
                            after = CASE WHEN after->>'person' = $1 THEN after - 'person' ELSE after END
     WHERE kind = 'endpoint' AND $1 IN (before->>'person', after->>'person')`,
    [id],
  );
  await run(
    `UPDATE audit_entry SET before = before #- '{users}', after = after #- '{users}'
     WHERE kind = 'endpoint' AND (before->'users' ? $1 OR after->'users' ? $1)`,
    [id],
  );
  await run(
    `UPDATE estate_object SET data = jsonb_build_object('id', id)
     WHERE deleted AND ((kind IN ('person', 'signedIn') AND id = $1) OR (kind = 'session' AND data->>'person' = $1) OR (kind = 'setting' AND data->>'layer' = 'person' AND data->>'target' = $1))`,
    [id],
  );
}
