import { useInfiniteQuery } from '@tanstack/react-query';
import type { AccessPeople, AccessPersonRow, Named } from '@underpass/contracts';
import { useState } from 'react';
import { useSearchParams } from 'react-router';
import { useCanEdit } from '../api/session.js';
import { LongList } from '../ui/LongList.js';
import { Pick } from '../ui/Pick.js';
import { Empty, Failed, Loading } from '../ui/States.js';
import { Strip } from '../ui/Strip.js';
import { DraftDialog } from './DraftDialog.js';
import { MoveDialog } from './MoveDialog.js';
import { useTitle } from '../shell/useTitle.js';
import { accessQueries } from './queries.js';

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
const grid = 'grid grid-cols-[minmax(130px,1fr)_84px_minmax(120px,1fr)_minmax(160px,1.6fr)_64px_64px_minmax(150px,1.2fr)] gap-x-3';

/** People with what they see now and after the next sign-in; each leads to the chains. */
export function PeoplePage() {
  useTitle('Who sees what');
  const [search, setSearch] = useSearchParams();
  const [text, setText] = useState(search.get('search') ?? '');
  const [group, setGroup] = useState<Named | null>(search.get('group') ? { id: search.get('group')!, name: search.get('group')! } : null);
  const [move, setMove] = useState(false);
  const draft = search.get('draft');
  const canEdit = useCanEdit();
  const show = shows.find((each) => each === search.get('show')) ?? 'all';
  const wanted = { search: search.get('search'), group: search.get('group'), show };
  const set = (key: string, value: string | null) =>
    setSearch(
      (old) => {
        const next = new URLSearchParams(old);
        if (value) next.set(key, value);
        else next.delete(key);
        return next;
      },
      { replace: true },
    );
  const pages = useInfiniteQuery(accessQueries.people(wanted));
  const rows = pages.data?.pages.flatMap((page) => page.rows) ?? [];
  const total = pages.data?.pages[0]?.total ?? 0;
  return (
    <>
      <div className="flex items-start gap-4">
        <h1 className="flex-1">{pages.data?.pages[0] ? said[show](total, pages.data.pages[0].counts) : 'Who sees what'}</h1>
        {canEdit && (
          <button className="btn" onClick={() => setMove(true)}>
            Move people
          </button>
        )}
      </div>
      <Filters
        text={text}
        group={group}
        show={show}
        counts={pages.data?.pages[0]?.counts}
        onText={setText}
        onGroup={setGroup}
        onSet={set}
      />
      {pages.isPending && <Loading what="the people" />}
      {pages.isError && <Failed what="The people" error={pages.error} onRetry={() => void pages.refetch()} />}
      {pages.data && total === 0 && (
        <Empty
          action={
            <button
              className="btn"
              onClick={() => {
                setText('');
                setGroup(null);
                setSearch({});
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
        <LongList
          rows={rows}
          total={total}
          label="People"
          heads={['Person', 'Kind', 'Location', 'Groups', { name: 'Sees now', right: true }, { name: 'Next', right: true }, 'To know']}
          grid={grid}
          minWidth="min-w-[880px]"
          height="h-[calc(100vh-180px)]"
          to={(row) => `/access/people/${encodeURIComponent(row.id)}`}
          cells={cellsOf}
          onNearEnd={() => pages.hasNextPage && !pages.isFetchingNextPage && void pages.fetchNextPage()}
        />
      )}
      {draft && <DraftDialog id={draft} onClose={() => set('draft', null)} />}
      {move && <MoveDialog group={group} onClose={() => setMove(false)} />}
    </>
  );
}

/** Who is shown, each filter in the address. */
function Filters({
  text,
  group,
  show,
  counts,
  onText,
  onGroup,
  onSet: set,
}: {
  text: string;
  group: Named | null;
  show: (typeof shows)[number];
  counts: AccessPeople['counts'] | undefined;
  onText: (text: string) => void;
  onGroup: (group: Named | null) => void;
  onSet: (key: string, value: string | null) => void;
}) {
  return (
    <div className="flex flex-wrap gap-x-4 gap-y-2 items-center mt-3 mb-2">
      <input
        className="field w-[170px]"
        aria-label="Search people"
        placeholder="Search people"
        value={text}
        onChange={(event) => {
          onText(event.target.value);
          set('search', event.target.value.trim() || null);
        }}
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

/** The cells of one row. */
const cellsOf = (row: AccessPersonRow) => (
  <>
    <b role="cell" className="truncate">
      {row.name}
    </b>
    <span role="cell">{row.kind}</span>
    <span role="cell" className="truncate">
      {row.locationName}
    </span>
    <span role="cell" className="truncate text-ink-2">
      {row.groups.map(({ name }) => name).join(', ')}
    </span>
    <span role="cell" className="text-right">
      {row.now}
    </span>
    <span role="cell" className={`text-right ${row.changes ? 'font-bold' : 'text-ink-3'}`}>
      {row.after}
    </span>
    <span role="cell" className="truncate text-ink-2">
      {row.hidden > 0
        ? `${row.hidden} hidden: attached to no portal`
        : row.changes
          ? 'another list at the next sign-in'
          : row.desktops.length
            ? `chooses between ${row.desktops.length} desktops`
            : row.after === 0
              ? 'sees nothing'
              : ''}
    </span>
  </>
);
