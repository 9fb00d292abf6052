import { describe, expect, it } from '@jest/globals';
import { emptyEstate, objectKinds, objectSchemas } from '../estate/estate.js';
import { Measurement } from '../estate/measurement.js';
import { columnWords, measurementWords } from './columnWords.js';
import { columnsOf } from './columns.js';
import { templatePage, writeTemplate } from './template.js';

describe('the page that explains the columns', () => {
  const lines = (writeTemplate(emptyEstate(), []).get(templatePage) ?? '').split('\n').filter((line) => line.startsWith('| `'));
  it('says of every column what it says', () => {
    expect(lines.length).toBeGreaterThan(300);
    expect(lines.filter((line) => line.split(/(?<!\\)\|/)[3]?.trim() === '')).toEqual([]);
  });
  it('says nothing of columns that are not there, and nothing that a schema says itself', () => {
    const of: Record<string, ReturnType<typeof columnsOf>> = {
      ...Object.fromEntries(objectKinds.map((kind) => [kind, columnsOf(objectSchemas[kind])])),
      measurement: columnsOf(Measurement),
    };
    const words = { ...columnWords, measurement: measurementWords };
    for (const [kind, table] of Object.entries(words))
      for (const name of Object.keys(table)) {
        if (name.startsWith('*.')) continue;
        const column = of[kind]?.find((each) => each.name === name);
        expect([kind, name, column !== undefined, column?.description ?? '']).toEqual([kind, name, true, '']);
      }
  });
});
