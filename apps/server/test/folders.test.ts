import { describe, expect, test } from '@jest/globals';
import { readFolder, type Applied, type AuditEntry, type ImportJob, type Location } from '@underpass/contracts';
import { strFromU8, unzipSync } from 'fflate';
import { demoFiles } from './server.js';
import { withDemo } from './withDemo.js';

const demo = withDemo(48_300);

const until = async <T>(read: () => Promise<T>, good: (value: T) => boolean): Promise<T> => {
  for (let i = 0; i < 200; i++) {
    const value = await read();
    if (good(value)) return value;
    await new Promise((resolve) => setTimeout(resolve, 50));
  }
  throw new Error('it never came');
};

const importing = async (files: Record<string, string>, apply: boolean, seen?: number): Promise<ImportJob> => {
  const { body } = await demo.server.call('estate/import', { method: 'POST', body: { files, apply, seen }, cookie: demo.engineer });
  const { id } = body as ImportJob;
  return until(
    async () => (await demo.server.call(`estate/import/${id}`, { cookie: demo.engineer })).body as ImportJob,
    (job) => job.state !== 'running',
  );
};

describe('a folder', () => {
  test('importing the same folder twice changes nothing, and the export is the folder unchanged in content', async () => {
    expect(await importing(demoFiles(), true)).toMatchObject({
      state: 'applied',
      result: { added: 0, changed: 0, measurements: 0, rejectedTotal: 0 },
    });
    const zip = await demo.server.exported('estate/exports', demo.engineer);
    const files = new Map(Object.entries(unzipSync(zip)).map(([name, bytes]) => [name, strFromU8(bytes)]));
    const [first, again] = [readFolder(new Map(Object.entries(demoFiles()))), readFolder(files)];
    expect(again.problems).toEqual([]);
    const sorted = (list: { id: string }[]) => [...list].sort((a, b) => (a.id < b.id ? -1 : 1));
    // what is secret comes out sealed, and is read again as what it was
    for (const each of [...first.estate.location, ...first.estate.endpoint])
      if (each.wifi?.key !== undefined) each.wifi.key = expect.stringMatching(/^sealed:/) as unknown as string;
    for (const kind of Object.keys(first.estate) as 'person'[]) expect(sorted(again.estate[kind])).toEqual(sorted(first.estate[kind]));
    expect(sorted(again.measurements)).toEqual(sorted(first.measurements));
  });

  test('a dry run writes nothing; one wrong row and nothing of the rest is written either', async () => {
    const version = async () => ((await demo.server.call('board', { cookie: demo.engineer })).body as { version: number }).version;
    const before = await version();
    const files = { 'people.csv': 'id,name,kind,location,groups\nP900,New Person,staff,head-office,all-staff\n' };
    expect(await importing(files, false)).toMatchObject({ state: 'checked', result: { added: 1 } });
    const broken = { 'people.csv': `${files['people.csv']}P901,Lost,staff,atlantis,\n` };
    expect(await importing(broken, true)).toMatchObject({
      state: 'rejected',
      result: { rejected: [{ file: 'people.csv', line: 3, field: 'location' }] },
    });
    expect((await demo.server.call('estate/person/P900', { cookie: demo.engineer })).status).toBe(404);
    expect(await version()).toBe(before);
  });

  test('what somebody wrote since a folder was compared is not written over', async () => {
    const id = 'tolmouth';
    const [header = '', ...lines] = (demoFiles()['locations.csv'] ?? '').split('\n');
    const cells = (lines.find((line) => line.startsWith(`${id},`)) ?? '').split(',');
    const rows = (downMbps: number) => {
      const row = cells.with(header.split(',').indexOf('downMbps'), String(downMbps));
      return { 'locations.csv': `${header}\n${row.join(',')}\n` };
    };
    const { result: first } = await importing(rows(41), false);
    expect(first).toMatchObject({ changed: 1 });
    const patch = { do: 'change', kind: 'location', id, set: { downMbps: 77 } };
    const body = { change: { patches: [patch], hypotheses: [] }, summary: 'Wider' };
    const { changeId } = (await demo.server.call('changes', { method: 'POST', cookie: demo.engineer, body })).body as Applied;
    const late = await importing(rows(41), true, first?.version);
    expect(late).toMatchObject({
      state: 'rejected',
      message: 'Location tolmouth was changed meanwhile. Nothing was written: look at it again.',
    });
    const now = async () =>
      ((await demo.server.call(`estate/location/${id}`, { cookie: demo.engineer })).body as { object: Location }).object.downMbps;
    expect(await now()).toBe(77);
    const { result: second } = await importing(rows(41), false);
    expect(await importing(rows(41), true, second?.version)).toMatchObject({ state: 'applied', result: { changed: 1 } });
    expect(await now()).toBe(41);
    const [latest] = (await demo.server.call('changes', { cookie: demo.engineer })).body as AuditEntry[];
    for (const change of [latest?.changeId, changeId])
      expect((await demo.server.call(`changes/${change}/undo`, { method: 'POST', cookie: demo.engineer, body: {} })).status).toBe(200);
  });
});
