import { Inject, Injectable } from '@nestjs/common';
import { emptyEstate, EstateExportRequest, folderFiles, writeFolder, type Estate } from '@underpass/contracts';
import { CONFIG, type Config } from '../config.js';
import { Reading } from '../edge/reading.service.js';
import { Exports } from '../jobs/exports.service.js';
import { Listing } from './listing.js';

/** An estate of 50 000 endpoints is written in a few seconds. */
const writtenWithinMs = 120_000;

/** The estate folder as a ZIP, and the list of one kind as its file: reading either again changes nothing. */
@Injectable()
export class ExportService {
  constructor(exports: Exports, reading: Reading, listing: Listing, @Inject(CONFIG) { databaseUrl }: Config) {
    exports.takes('export', async (_, progress) => {
      progress.at('writing the folder', 0, 1);
      const content = await reading.run('exportEstate', { databaseUrl }, { withinMs: writtenWithinMs });
      return { name: 'estate.zip', media: 'application/zip', content };
    });
    exports.takes('list export', async (request, progress) => {
      const { kind, ...filter } = EstateExportRequest.parse(request);
      if (!kind) throw new Error('a list is of one kind');
      progress.at('writing the list', 0, 1);
      const estate = { ...emptyEstate(), [kind]: await listing.all(kind, filter) } as Estate;
      const name = folderFiles[kind];
      const text = writeFolder(estate, []).get(name) ?? '';
      return { name, media: name.endsWith('.csv') ? 'text/csv' : 'text/yaml', content: Buffer.from(text) };
    });
  }
}
