import { Injectable } from '@nestjs/common';
import { CrossingExportRequest, writeRows } from '@underpass/contracts';
import { Exports } from '../jobs/exports.service.js';
import { CrossingListing } from './listing.js';
import { ResultsService } from './results.service.js';

const heads = [
  'verdict',
  'person',
  'person id',
  'endpoint',
  'location',
  'location id',
  'resource',
  'resource id',
  'delay ms',
  'frames/s',
  'usable after s',
  'held in',
  'findings',
];

/** The list of crossings as a table for a spreadsheet. */
@Injectable()
export class CrossingListExport {
  constructor(exports: Exports, results: ResultsService, listing: CrossingListing) {
    exports.takes('crossings export', async (request, progress) => {
      const { sort, ...filter } = CrossingExportRequest.parse(request);
      progress.at('evaluating', 0, 1);
      await results.standing();
      progress.at('writing the table', 0, 1);
      const rows = await listing.all(filter, sort);
      const cells = rows.map((row) => [
        row.verdict,
        row.personName,
        row.person,
        row.endpoint,
        row.locationName,
        row.location,
        row.resourceName,
        row.resource,
        String(row.delayMs),
        String(row.frameRate),
        String(row.timeToUsableS),
        row.bay ?? '',
        row.kinds.join('; '),
      ]);
      return { name: 'crossings.csv', media: 'text/csv', content: Buffer.from(writeRows(heads, cells)) };
    });
  }
}
