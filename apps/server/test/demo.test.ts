import { afterAll, beforeAll, describe, expect, test } from '@jest/globals';
import type { AcceptanceView, AuditEntry, CrossingPage, DraftView, EntryLinkView, KeptView } from '@underpass/contracts';
import { lately } from '../src/demo/loader.js';
import { pastSteps } from '../src/demo/past.js';
import { makeDatabase, people, startServer, type TestServer } from './server.js';

const csv = 'id,at,by\nM1,2026-11-02T08:07:00Z,field check\nM2,2026-11-21T09:20:00Z,"2026-11-21T09:20:00Z"\n';
const at = (now: string) =>
  lately(csv, Date.parse(now))
    .split('\n')
    .slice(1, 3)
    .map((line) => line.split(',')[1]);

test('the demo was measured lately, whenever it is started: by whole weeks, so that day and hour stay', () => {
  expect(at('2026-11-28T09:19:59Z')).toEqual(['2026-11-02T08:07:00Z', '2026-11-21T09:20:00Z']);
  expect(at('2026-11-28T09:20:00Z')).toEqual(['2026-11-09T08:07:00Z', '2026-11-28T09:20:00Z']);
  expect(at('2027-11-21T00:00:00Z')).toEqual(['2027-11-01T08:07:00Z', '2027-11-20T09:20:00Z']);
  expect(at('2025-01-01T00:00:00Z')).toEqual(['2026-11-02T08:07:00Z', '2026-11-21T09:20:00Z']);
  // what stands in another column is nobody's time
  expect(lately(csv, Date.parse('2026-11-28T09:20:00Z'))).toContain('"2026-11-21T09:20:00Z"');
});

describe('the demo’s past', () => {
  let database: Awaited<ReturnType<typeof makeDatabase>>;
  let server: TestServer;
  let cookie = '';
  const get = async <T>(path: string): Promise<T> => (await server.call(path, { cookie })).body as T;

  beforeAll(async () => {
    database = await makeDatabase();
    server = await startServer(database.url, 47_200, true, { demoPast: true });
    cookie = await server.signIn(people.engineer);
  }, 60_000);
  afterAll(async () => {
    await server.app.close();
    await database.drop();
  });

  test('leaves the estate as it is written down, and its verdicts as they are without it', async () => {
    const bare = await makeDatabase('demo');
    const other = await startServer(bare.url, 47_210);
    try {
      const same = async (path: string) => {
        const there = (await other.call(path, { cookie: await other.signIn(people.engineer) })).body;
        expect([path, await get(path)]).toEqual([path, there]);
      };
      for (const kind of ['endpoint', 'location', 'publication']) await same(`estate/${kind}?limit=500&sort=id`);
      await same('crossings?limit=500');
    } finally {
      await other.app.close();
      await bare.drop();
    }
  }, 60_000);

  test('is a month of changes by people, each taken back only where nothing later rests on it', async () => {
    const changes = await get<AuditEntry[]>('changes');
    expect(changes.map(({ summary }) => summary)).toEqual([...pastSteps.map(({ summary }) => summary).reverse(), 'Demo estate loaded']);
    const ages = changes.map(({ at }) => Math.round((Date.now() - Date.parse(at)) / 86_400_000));
    expect(ages).toEqual([...pastSteps.map(({ daysAgo }) => daysAgo).reverse(), 30]);
    expect(changes.at(-1)?.canUndo).toBe(false);
    expect(changes[0]?.canUndo).toBe(true);
  });

  test('shows on a crossing what a change did to it', async () => {
    const { rows } = await get<CrossingPage>('crossings?location=brack&limit=50');
    const history = await get<{ at: string; verdict: string; cause: string }[]>(
      `crossings/${encodeURIComponent(rows[0]?.id ?? '')}/history`,
    );
    expect(history.length).toBeGreaterThan(1);
    expect(Date.parse(history[0]?.at ?? '')).toBeLessThan(Date.now() - 29 * 86_400_000);
    expect(history.map(({ cause }) => cause)).toContain('Clients at the Brack repair dock brought to 3.12.4');
    const verdicts = history.map(({ verdict }) => verdict);
    expect(verdicts[0]).toBe('blocked');
    expect(verdicts.at(-1)).toBe(rows[0]?.verdict);
  });

  test('has drafts that still fit, links in use, a run that is under way, and views for all', async () => {
    expect((await get<DraftView[]>('drafts')).map(({ name, conflicts }) => [name, conflicts])).toEqual([
      ['Let the second factor take 25 s on the vessels', []],
      ['Hold screens at Wexcombe at 1080p', []],
    ]);
    const links = await get<EntryLinkView[]>('access/links');
    expect(links.length).toBeGreaterThan(5);
    expect(links.every(({ opened, state }) => opened > 0 && state === 'good')).toBe(true);
    const { run } = await get<AcceptanceView>('access/acceptance');
    const looked = run?.testers.filter(({ saw }) => saw !== null) ?? [];
    expect([looked.length > 0, looked.length < (run?.testers.length ?? 0)]).toEqual([true, true]);
    expect(looked.filter(({ missing }) => missing.length > 0)).toHaveLength(1);
    expect((await get<KeptView[]>('views')).length).toBe(3);
  });
});
