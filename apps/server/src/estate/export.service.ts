import { Inject, Injectable } from '@nestjs/common';
import { CONFIG, type Config } from '../config.js';
import { Reading } from '../edge/reading.service.js';
import { Exports } from '../jobs/exports.service.js';

/** An estate of 50 000 endpoints is written in a few seconds. */
const writtenWithinMs = 120_000;

/** The estate folder as a ZIP; reading it again changes nothing. */
@Injectable()
export class ExportService {
  constructor(exports: Exports, reading: Reading, @Inject(CONFIG) { databaseUrl }: Config) {
    exports.takes('export', async (_, progress) => {
      progress.at('writing the folder', 0, 1);
      const content = await reading.run('exportEstate', { databaseUrl }, { withinMs: writtenWithinMs });
      return { name: 'estate.zip', media: 'application/zip', content };
    });
  }
}
