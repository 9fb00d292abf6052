import { beforeAll, expect, test } from '@jest/globals';
import { execFile } from 'node:child_process';
import { promisify } from 'node:util';
import { completed, kindTraits, readFolder, type CrossingPage, type CrossingRow } from '@underpass/contracts';
import { withShippedSets } from '@underpass/contracts/shipped';
import { evaluateCrossing, FactsReader, modelOf, readerOfSlice, type Slice } from '@underpass/core';
import { demoFiles, demoFolder } from './server.js';
import { withDemo } from './withDemo.js';

const demo = withDemo(47_940);

/*
 * Whoever looks at a crossing, by the Board, in the browser or on the command line, sees the same: the server with its model that follows
 * edits, the slice that a browser computes with, and the files of the estate read by the command line.
 */
const rows: CrossingRow[] = [];
const options = { complete: completed, traits: kindTraits };

beforeAll(async () => {
  for (let total = 1; rows.length < total;) {
    const page = (await demo.server.call(`crossings?limit=500&offset=${rows.length}`, { cookie: demo.engineer })).body as CrossingPage;
    total = page.total;
    rows.push(...page.rows);
  }
}, 60_000);

test('the command line tells of every crossing what the server tells', async () => {
  const { stdout } = await promisify(execFile)(process.execPath, ['scripts/underpass.mjs', 'evaluate', demoFolder, '--json'], {
    cwd: new URL('../../..', import.meta.url).pathname,
    maxBuffer: 1e8,
  });
  const { crossings } = JSON.parse(stdout) as { crossings: (CrossingRow & { findings: { kind: string }[] })[] };
  const figuresOf = ({ verdict, delayMs, frameRate, timeToUsableS }: CrossingRow) => [verdict, delayMs, frameRate, timeToUsableS];
  const byCommand = new Map(crossings.map((each) => [`${each.person}~${each.endpoint}~${each.resource}`, each]));
  expect([rows.length > 1000, byCommand.size]).toEqual([true, rows.length]);
  for (const row of rows) {
    const told = byCommand.get(row.id)!;
    expect([row.id, ...figuresOf(told)]).toEqual([row.id, ...figuresOf(row)]);
    // the list counts a consequence too, which is told beneath its cause
    expect(row.kinds).toEqual(expect.arrayContaining(told.findings.map(({ kind }) => kind)));
    expect(told.findings.length > 0).toBe(row.kinds.length > 0);
  }
}, 120_000);

test('the slice that a browser computes with comes, to the last digit and word, to what the files come to', async () => {
  const { estate, measurements } = readFolder(new Map(Object.entries(demoFiles())), {});
  const model = modelOf(withShippedSets(estate), measurements, options);
  let compared = 0;
  for (const { id } of rows.filter((_, i) => i % 25 === 0)) {
    // a database keeps the fields of an object in an order of its own, which is all that may differ
    const { slice } = (await demo.server.call(`crossings/${encodeURIComponent(id)}/slice`, { cookie: demo.engineer })).body as {
      slice: Slice;
    };
    const [here, there] = [readerOfSlice(slice, options), new FactsReader(model, slice.atMs)].map((reader) => {
      const facts = reader.read(slice.ref);
      return facts && (JSON.parse(JSON.stringify(evaluateCrossing(facts))) as object);
    });
    expect([id, here]).toEqual([id, there]);
    compared++;
  }
  expect(compared).toBeGreaterThan(40);
});
