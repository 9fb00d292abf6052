import { Injectable } from '@nestjs/common';
import { AccessPeopleExportRequest, writeRows } from '@underpass/contracts';
import { Exports } from '../jobs/exports.service.js';
import { EstateStore } from '../estate/estate.store.js';
import { PeopleListing } from './peopleListing.js';

const heads = ['person', 'person id', 'kind', 'location', 'groups', 'sees now', 'sees after the next sign-in', 'hidden', 'chooses between'];

/** The list of who sees what as a table for a spreadsheet. */
@Injectable()
export class PeopleExport {
  constructor(exports: Exports, store: EstateStore, listing: PeopleListing) {
    exports.takes('people export', async (request, progress) => {
      const filter = AccessPeopleExportRequest.parse(request);
      progress.at('reading', 0, 1);
      await store.refresh('another server');
      progress.at('writing the table', 0, 1);
      const cells = (await listing.all(filter)).map((row) => [
        row.name,
        row.id,
        row.kind,
        row.locationName,
        row.groups.map(({ name }) => name).join('; '),
        String(row.now),
        String(row.after),
        String(row.hidden),
        row.desktops.join('; '),
      ]);
      return { name: 'people.csv', media: 'text/csv', content: Buffer.from(writeRows(heads, cells)) };
    });
  }
}
