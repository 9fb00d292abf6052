import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { readFolder, type FolderContent } from '@underpass/contracts';
import { withShippedSets } from '@underpass/contracts/shipped';

const folder = new URL('../../../demo/saltmarsh', import.meta.url).pathname;

/** The demo estate as the importer reads it, fresh for every caller. */
export const demoEstate = (): FolderContent => {
  const content = readFolder(new Map(readdirSync(folder).map((name) => [name, readFileSync(join(folder, name), 'utf8')])));
  return { ...content, estate: withShippedSets(content.estate) };
};
export const demoInstant = Date.parse('2026-11-25T10:00:00Z');
