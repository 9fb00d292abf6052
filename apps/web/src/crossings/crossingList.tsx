import type { CrossingRow } from '@underpass/contracts/words';
import type { ListColumn } from '../ui/list/columns.js';
import { Verdict, verdictInk, verdictWords } from '../ui/Verdict.js';

const figure = (value: number): string => String(value);

/** Columns of the list of crossings, by the words of the served list. */
export const crossingColumns: readonly ListColumn<CrossingRow>[] = [
  {
    id: 'person',
    head: 'Person',
    width: 'minmax(120px,1.1fr)',
    cell: (row) => <b>{row.personName}</b>,
    text: (row) => row.personName,
  },
  {
    id: 'verdict',
    head: 'Verdict',
    width: '92px',
    cell: (row) => <Verdict verdict={row.verdict} />,
    text: (row) => verdictWords[row.verdict],
  },
  { id: 'endpoint', head: 'Endpoint', width: 'minmax(110px,0.8fr)', cell: (row) => row.endpoint, text: (row) => row.endpoint },
  { id: 'location', head: 'Location', width: 'minmax(110px,0.9fr)', cell: (row) => row.locationName, text: (row) => row.locationName },
  { id: 'resource', head: 'Resource', width: 'minmax(120px,1fr)', cell: (row) => row.resourceName, text: (row) => row.resourceName },
  {
    id: 'delayMs',
    head: 'Delay, ms',
    width: '70px',
    right: true,
    cell: (row) => figure(Math.round(row.delayMs)),
    text: (row) => figure(row.delayMs),
  },
  {
    id: 'frameRate',
    head: 'Frames/s',
    width: '66px',
    right: true,
    cell: (row) => figure(row.frameRate),
    text: (row) => figure(row.frameRate),
  },
  {
    id: 'timeToUsableS',
    head: 'Usable, s',
    width: '66px',
    right: true,
    cell: (row) => figure(Math.round(row.timeToUsableS)),
    text: (row) => figure(row.timeToUsableS),
  },
  {
    id: 'finding',
    head: 'First finding',
    width: 'minmax(150px,1.9fr)',
    cell: (row) => (
      <span className={verdictInk[row.verdict]}>
        {row.bay ? `${row.bay}: ` : ''}
        {row.kinds[0] ?? ''}
      </span>
    ),
    text: (row) => `${row.bay ? `${row.bay}: ` : ''}${row.kinds[0] ?? ''}`,
  },
];
