import { useQuery } from '@tanstack/react-query';
import type { CrossingGroups as Groups } from '@underpass/contracts';
import { query } from '../api/client.js';
import { List } from '../ui/list/List.js';
import type { ListColumn } from '../ui/list/columns.js';
import { CountRow, PeopleBar } from '../ui/PeopleBar.js';
import { Empty, Failed, Loading } from '../ui/States.js';
import { crossingQueries } from './queries.js';

type Group = Groups['groups'][number];
const filterOf = { finding: 'kind', location: 'location', resource: 'resource' } as const;

/** Crossings in groups: how many people each finding, place or resource keeps from their work. */
export function CrossingGroups({ by, filter }: { by: keyof typeof filterOf; filter: Record<string, string | null> }) {
  const answer = useQuery(crossingQueries.groups(by, filter));
  if (answer.isError) return <Failed what="The groups" error={answer.error} onRetry={() => void answer.refetch()} />;
  if (!answer.data) return <Loading what="the groups" />;
  const { groups, total } = answer.data;
  if (total === 0) return <Empty>{by === 'finding' ? 'No finding on any crossing that fits.' : 'No crossing fits.'}</Empty>;
  const most = Math.max(1, ...groups.map(({ crossings }) => crossings));
  const columns: ListColumn<Group>[] = [
    {
      id: 'name',
      head: { finding: 'Finding', location: 'Place', resource: 'Resource' }[by],
      width: 'minmax(200px,1.6fr)',
      cell: (row) => <b>{row.name}</b>,
      text: (row) => row.name,
    },
    {
      id: 'notClear',
      head: 'People not Clear',
      width: '120px',
      right: true,
      cell: (row) => <b className={row.notClear ? '' : 'text-ink-3 font-normal'}>{row.notClear}</b>,
      text: (row) => String(row.notClear),
      sortBy: (row) => row.notClear,
    },
    {
      id: 'people',
      head: 'of people',
      width: '90px',
      right: true,
      cell: (row) => row.people,
      text: (row) => String(row.people),
      sortBy: (row) => row.people,
    },
    {
      id: 'crossings',
      head: 'Crossings',
      width: '90px',
      right: true,
      cell: (row) => row.crossings,
      text: (row) => String(row.crossings),
      sortBy: (row) => row.crossings,
    },
    {
      id: 'counts',
      head: 'Verdicts',
      width: 'minmax(330px,2fr)',
      sorts: false,
      cell: (row) => (
        <span className="inline-flex items-center gap-3">
          <PeopleBar counts={row.counts} perPerson={160 / most} most={160} height={11} />
          <CountRow counts={row.counts} />
        </span>
      ),
      text: (row) =>
        Object.entries(row.counts)
          .map(([verdict, n]) => `${verdict} ${n}`)
          .join(', '),
    },
  ];
  return (
    <List
      rows={groups}
      idOf={({ key }) => key}
      nameOf={({ name }) => name}
      label={`Crossings by ${by === 'location' ? 'place' : by}`}
      columns={columns}
      minWidth={900}
      height="h-[calc(100vh-196px)]"
      to={(row) => `/crossings${query({ ...filter, [filterOf[by]]: row.key })}`}
    />
  );
}
