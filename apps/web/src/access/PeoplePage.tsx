import type { AccessPeople, AccessPersonRow, Named } from '@underpass/contracts';
import { useState } from 'react';
import { EditableList } from '../estate/EditableList.js';
import { useCanEdit } from '../api/session.js';
import type { ListColumn } from '../ui/list/columns.js';
import { ColumnsMenu } from '../ui/list/ColumnsMenu.js';
import { ExportButton } from '../ui/ExportButton.js';
import { PrintButton } from '../ui/list/PrintButton.js';
import { useChosenRows } from '../ui/list/useChosenRows.js';
import { SearchField } from '../ui/list/SearchField.js';
import { useListAddress } from '../ui/list/useListAddress.js';
import { useListPages } from '../ui/list/useListPages.js';
import { ViewsMenu } from '../views/ViewsMenu.js';
import { WaysIn } from '../intake/WaysIn.js';
import { Pick } from '../ui/Pick.js';
import { Empty, Failed, Loading } from '../ui/States.js';
import { Strip } from '../ui/Strip.js';
import { DraftDialog } from './DraftDialog.js';
import { MoveDialog } from './MoveDialog.js';
import { useTitle } from '../shell/useTitle.js';
import { accessQueries } from './queries.js';

const idOf = ({ id }: AccessPersonRow): string => id;
const shows = ['all', 'guests', 'must choose', 'changes', 'hidden', 'nothing'] as const;
const words: Record<(typeof shows)[number], string> = {
  all: 'Everybody',
  guests: 'Guests',
  'must choose': 'Several desktops',
  changes: 'Will change',
  hidden: 'Hidden',
  nothing: 'See nothing',
};
const said: Record<(typeof shows)[number], (n: number, counts: AccessPeople['counts']) => string> = {
  all: (n, counts) =>
    counts.hidden
      ? `${counts.hidden} of ${n} people are given something that no portal shows`
      : counts.nothing
        ? `${counts.nothing} of ${n} people see nothing`
        : `${n} ${n === 1 ? 'person sees' : 'people see'} what their groups give`,
  guests: (n) => `${n} ${n === 1 ? 'guest' : 'guests'}`,
  'must choose': (n) => `${n} ${n === 1 ? 'person has' : 'people have'} to choose between desktops`,
  changes: (n) => `${n} will see another list at the next sign-in`,
  hidden: (n) => `${n} ${n === 1 ? 'person is' : 'people are'} given something that no portal shows`,
  nothing: (n) => `${n} ${n === 1 ? 'person sees' : 'people see'} nothing`,
};
/** The filters with how many each would show. */
const counted = (counts: AccessPeople['counts'] | undefined): typeof words =>
  counts
    ? {
        ...words,
        ...Object.fromEntries(shows.flatMap((show) => (show === 'all' ? [] : [[show, `${words[show]} ${counts[show]}`]]))),
      }
    : words;
/** People with what they see now and after the next sign-in; each leads to the chains. */
export function PeoplePage() {
  useTitle('Who sees what');
  const address = useListAddress(columns);
  const { search, get, set } = address;
  const named = get('group');
  const [group, setGroup] = useState<Named | null>(named ? { id: named, name: named } : null);
  const [move, setMove] = useState(get('do') === 'move');
  const draft = search.get('draft');
  const canEdit = useCanEdit();
  const show = shows.find((each) => each === get('show')) ?? 'all';
  const filter = { search: get('search'), group: named, show };
  const wanted = { ...filter, sort: address.sort };
  const [chosen, setChosen] = useChosenRows(filter);
  const given = Object.fromEntries(Object.entries(wanted).filter(([, value]) => value !== null));
  const { pages, data, rows, total, sorting, onNearEnd, printing } = useListPages(
    (sort) => accessQueries.people({ ...filter, sort }),
    address,
  );
  const counts = data?.pages[0]?.counts;
  const isNone = data !== undefined && total === 0 && show === 'all' && !filter.search && !filter.group;
  return (
    <>
      <div className="flex items-start gap-x-4 gap-y-2 flex-wrap">
        <h1 className="flex-1 min-w-[min(100%,300px)]">{counts ? said[show](total, counts) : 'Who sees what'}</h1>
        <span className="flex gap-2 items-center flex-wrap no-print">
          <ViewsMenu />
          <ColumnsMenu columns={columns} shown={address.shown} onShown={address.onShown} />
          <PrintButton {...printing} />
          {canEdit && (
            <ExportButton path="access/people-exports" body={given} name="people.csv" small>
              Export
            </ExportButton>
          )}
        </span>
        {canEdit && (
          <button className="btn" onClick={() => setMove(true)}>
            Move people
          </button>
        )}
      </div>
      <Filters
        search={get('search')}
        group={group}
        show={show}
        counts={counts}
        onGroup={setGroup}
        onSet={(key, value) => set({ [key]: value }, true)}
      />
      {pages.isPending && <Loading what="the people" />}
      {pages.isError && <Failed what="The people" error={pages.error} onRetry={() => void pages.refetch()} />}
      {isNone && <WaysIn>There is nobody yet. What people see follows from their groups, once they are here.</WaysIn>}
      {data && total === 0 && !isNone && (
        <Empty
          action={
            <button
              className="btn"
              onClick={() => {
                setGroup(null);
                set({ search: null, group: null, show: null });
              }}
            >
              Show everybody
            </button>
          }
        >
          Nobody fits this.
        </Empty>
      )}
      {total > 0 && (
        <EditableList
          rows={rows}
          idOf={idOf}
          nameOf={({ name }) => name}
          total={total}
          label="People"
          columns={columns}
          shown={address.shown}
          {...sorting}
          chosen={chosen}
          onChosen={setChosen}
          edits={[{ kind: 'person', label: 'Edit a field', idOf }]}
          minWidth={880}
          height="h-[calc(100vh-180px)]"
          to={(row) => `/access/people/${encodeURIComponent(row.id)}`}
          onNearEnd={onNearEnd}
        />
      )}
      {draft && <DraftDialog id={draft} onClose={() => set({ draft: null }, true)} />}
      {move && <MoveDialog group={group} onClose={() => setMove(false)} />}
    </>
  );
}

/** Who is shown, each filter in the address. */
function Filters({
  search,
  group,
  show,
  counts,
  onGroup,
  onSet: set,
}: {
  search: string | null;
  group: Named | null;
  show: (typeof shows)[number];
  counts: AccessPeople['counts'] | undefined;
  onGroup: (group: Named | null) => void;
  onSet: (key: string, value: string | null) => void;
}) {
  return (
    <div className="flex flex-wrap gap-x-4 gap-y-2 items-center mt-3 mb-2">
      <SearchField
        className="field w-[170px]"
        aria-label="Search people"
        placeholder="Search people"
        value={search}
        onSearch={(words) => set('search', words)}
      />
      <span className="w-[170px]">
        <Pick
          kind="group"
          label="In group"
          placeholder="In group"
          value={group}
          onPick={(next) => {
            onGroup(next);
            set('group', next?.id ?? null);
          }}
        />
      </span>
      <Strip
        label="Show"
        options={shows}
        value={show}
        words={counted(counts)}
        onChange={(next) => set('show', next === 'all' ? null : next)}
      />
    </div>
  );
}

const toKnow = (row: AccessPersonRow): string =>
  row.hidden > 0
    ? `${row.hidden} hidden: attached to no portal`
    : row.changes
      ? 'another list at the next sign-in'
      : row.desktops.length
        ? `chooses between ${row.desktops.length} desktops`
        : row.after === 0
          ? 'sees nothing'
          : '';
const groupsOf = (row: AccessPersonRow): string => row.groups.map(({ name }) => name).join(', ');

const columns: readonly ListColumn<AccessPersonRow>[] = [
  { id: 'name', head: 'Person', width: 'minmax(130px,1fr)', cell: (row) => <b>{row.name}</b>, text: (row) => row.name },
  { id: 'kind', head: 'Kind', width: '84px', cell: (row) => row.kind, text: (row) => row.kind },
  { id: 'location', head: 'Location', width: 'minmax(120px,1fr)', cell: (row) => row.locationName, text: (row) => row.locationName },
  {
    id: 'groups',
    head: 'Groups',
    width: 'minmax(160px,1.6fr)',
    cell: (row) => <span className="text-ink-2">{groupsOf(row)}</span>,
    text: groupsOf,
  },
  { id: 'now', head: 'Sees now', width: '72px', right: true, cell: (row) => row.now, text: (row) => String(row.now) },
  {
    id: 'after',
    head: 'Next',
    width: '64px',
    right: true,
    cell: (row) => <span className={row.changes ? 'font-bold' : 'text-ink-3'}>{row.after}</span>,
    text: (row) => String(row.after),
  },
  {
    id: 'know',
    head: 'To know',
    width: 'minmax(150px,1.2fr)',
    sorts: false,
    cell: (row) => <span className="text-ink-2">{toKnow(row)}</span>,
    text: toKnow,
  },
];
