import { expect, test } from '@jest/globals';
import { withDemo } from './withDemo.js';

const demo = withDemo(47_900);

interface Operation {
  responses: Record<string, { description?: string; content?: Record<string, { schema?: object }> }>;
}

test('every route says in the served description what it answers, and how it tells that something is wrong', async () => {
  const { body } = await demo.server.call('docs-json', { cookie: demo.engineer });
  const { paths, components } = body as {
    paths: Record<string, Record<string, Operation>>;
    components: { schemas: Record<string, object> };
  };
  const untold: string[] = [];
  for (const [path, operations] of Object.entries(paths))
    for (const [method, { responses }] of Object.entries(operations)) {
      const good = Object.entries(responses).filter(([status]) => /^[23]/.test(status));
      const says = good.some(
        ([status, { content }]) =>
          status === '204' ||
          status.startsWith('3') ||
          Object.values(content ?? {}).some(({ schema }) => schema && Object.keys(schema).length > 0),
      );
      if (!says || !responses.default?.content?.['application/problem+json']) untold.push(`${method} ${path}`);
    }
  expect(untold).toEqual([]);
  expect(Object.keys(paths).length).toBeGreaterThan(60);
  expect(components.schemas.Problem).toBeDefined();
});

// the helper that asks compares each answer with what its route says, and fails where they differ
test('real answers are as they say: whatever can be read of the demo estate', async () => {
  const read = async <T>(path: string, cookie = demo.engineer): Promise<T> => {
    const { status, body } = await demo.server.call(path, { cookie });
    expect([path, status]).toEqual([path, 200]);
    return body as T;
  };
  await read('board');
  const { rows } = await read<{ rows: { id: string; person: string; resource: string }[] }>('crossings?limit=500');
  // one of each verdict and of several kinds
  for (const row of rows.filter((_, i) => i % 60 === 0)) {
    const path = `crossings/${encodeURIComponent(row.id)}`;
    for (const part of ['', '/slice', '/history']) await read(`${path}${part}`);
    expect(
      (
        await demo.server.call(`${path}/readiness`, {
          method: 'POST',
          cookie: demo.engineer,
          body: { change: { patches: [], hypotheses: [] } },
        })
      ).status,
    ).toBe(200);
    await read(`redirection/${encodeURIComponent(row.id)}`);
    await read(`settings/compare?a=${encodeURIComponent(row.id)}&b=${encodeURIComponent(row.id)}`);
    await read(`access/people/${row.person}`);
    await read(`access/why?person=${row.person}&resource=${row.resource}`);
    await read(`access/resources/${row.resource}`);
  }
  for (const { kind } of await read<{ kind: string }[]>('estate')) {
    const { rows: objects } = await read<{ rows: { id: string }[] }>(`estate/${kind}?limit=3`);
    for (const { id } of objects) await read(`estate/${kind}/${encodeURIComponent(id)}`);
  }
  for (const path of [
    'access/people',
    'access/publications',
    'access/guests',
    'access/links',
    'access/links/browsers',
    'access/requirements',
    'access/acceptance',
    'signon/savings',
    'signon/rules',
    'changes',
    'drafts',
    'settings/of?endpoint=WEX-TC-020',
    'settings/places/picture.frameCap',
    'settings/costs?endpoint=WEX-TC-020&key=picture.frameCap',
    'settings/costs?endpoint=MAR-TC-014&key=picture.frameCap',
    'settings/lint',
    'settings/carried',
    'settings/needless',
    'settings/profile-schema',
    'redirection',
    'jobs',
    'check-links',
    'find?q=a',
    'session',
    'session/options',
    'account',
    'health',
    'ready',
  ])
    await read(path);
  for (const path of ['users', 'users/rules', 'security-log']) await read(path, demo.admin);
});
