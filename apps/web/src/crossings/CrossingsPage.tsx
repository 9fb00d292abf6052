import { useInfiniteQuery } from '@tanstack/react-query';
import {
  Bay,
  Verdict as VerdictSchema,
  type CrossingPage,
  type CrossingRow,
  type Verdict as VerdictWord,
} from '@underpass/contracts/words';
import { useState } from 'react';
import { useSearchParams } from 'react-router';
import { LongList } from '../ui/LongList.js';
import { Empty, Failed } from '../ui/States.js';
import { Verdict, verdictInk, verdictWords, VerdictShape } from '../ui/Verdict.js';
import { useTitle } from '../shell/useTitle.js';
import { crossingQueries } from './queries.js';

const right = (name: string) => ({ name, right: true });
const filters = ['search', 'verdict', 'bay', 'area', 'location', 'resource', 'person', 'kind'] as const;
const grid =
  'grid grid-cols-[104px_minmax(120px,1.1fr)_minmax(110px,0.8fr)_minmax(130px,1fr)_minmax(120px,1fr)_70px_70px_64px_minmax(130px,1.3fr)] gap-x-3';

/** All crossings: filters live in the address, the list is as long as it is and only what is seen is drawn. */
export function CrossingsPage() {
  const [search, setSearch] = useSearchParams();
  const [text, setText] = useState(search.get('search') ?? '');
  const wanted = Object.fromEntries(filters.map((key) => [key, search.get(key)]));
  const pages = useInfiniteQuery(crossingQueries.list(wanted));
  useTitle('Crossings');
  const set = (key: string, value: string | null) =>
    setSearch(
      (now) => {
        const next = new URLSearchParams(now);
        if (value) next.set(key, value);
        else next.delete(key);
        return next;
      },
      { replace: key === 'search' },
    );
  const first = pages.data?.pages[0];
  const rows = pages.data?.pages.flatMap((page) => page.rows) ?? [];
  const total = first?.total ?? 0;
  return (
    <div className="px-6">
      <div className="pt-[15px] flex items-baseline gap-4 flex-wrap">
        <h1>{first ? `${total} crossing${total === 1 ? '' : 's'}` : '·····'}</h1>
        <span className="text-ink-3">a person on an endpoint through to a resource, worst first</span>
      </div>
      <Filters search={search} text={text} counts={first?.counts} onText={setText} onSet={set} />
      {pages.isError && <Failed what="The crossings" error={pages.error} onRetry={() => void pages.refetch()} />}
      {first && total === 0 && (
        <Empty
          action={
            <button
              className="btn"
              onClick={() => {
                setText('');
                setSearch({});
              }}
            >
              Remove all filters
            </button>
          }
        >
          No crossing fits these filters.
        </Empty>
      )}
      {total > 0 && (
        <LongList
          rows={rows}
          total={total}
          label="Crossings"
          heads={[
            'Verdict',
            'Person',
            'Endpoint',
            'Location',
            'Resource',
            right('Delay'),
            right('Frames'),
            right('Usable'),
            'First finding',
          ]}
          grid={grid}
          minWidth="min-w-[1020px]"
          height="h-[calc(100vh-190px)]"
          to={(row) => `/crossings/${encodeURIComponent(row.id)}`}
          cells={cellsOf}
          onNearEnd={() => pages.hasNextPage && !pages.isFetchingNextPage && void pages.fetchNextPage()}
        />
      )}
    </div>
  );
}

/** What is shown of the crossings, each filter in the address. */
function Filters({
  search,
  text,
  counts,
  onText,
  onSet: set,
}: {
  search: URLSearchParams;
  text: string;
  counts: CrossingPage['counts'] | undefined;
  onText: (text: string) => void;
  onSet: (key: string, value: string | null) => void;
}) {
  const named = (['area', 'location', 'resource', 'person', 'kind'] as const).map((key) => [key, search.get(key)] as const);
  return (
    <div className="flex flex-wrap gap-3 items-center py-3">
      <label className="flex items-center gap-2">
        Search
        <input
          className="field w-[240px]"
          value={text}
          placeholder="Name, endpoint, place, resource"
          onChange={(event) => {
            onText(event.target.value);
            set('search', event.target.value.trim() || null);
          }}
        />
      </label>
      <div role="group" aria-label="Verdict" className="inline-flex border border-rule-2 rounded-[2px] bg-sheet divide-x divide-rule-2">
        {VerdictSchema.options.map((verdict: VerdictWord) => (
          <button
            key={verdict}
            aria-pressed={search.get('verdict') === verdict}
            onClick={() => set('verdict', search.get('verdict') === verdict ? null : verdict)}
            className="h-[28px] px-2.5 inline-flex items-center gap-1.5 aria-pressed:bg-ink aria-pressed:text-paper aria-pressed:font-bold"
          >
            <VerdictShape verdict={verdict} size={11} />
            {verdictWords[verdict]} <span className={search.get('verdict') === verdict ? '' : 'text-ink-3'}>{counts?.[verdict] ?? ''}</span>
          </button>
        ))}
      </div>
      <label className="flex items-center gap-2">
        Held in
        <select className="field" value={search.get('bay') ?? ''} onChange={(event) => set('bay', event.target.value || null)}>
          <option value="">any bay</option>
          {Bay.options.map((bay: string) => (
            <option key={bay}>{bay}</option>
          ))}
        </select>
      </label>
      {named.map(([key, value]) =>
        value ? (
          <button key={key} className="btn btn-small" onClick={() => set(key, null)} aria-label={`Remove the filter ${key} ${value}`}>
            {key === 'kind' ? value : `${key}: ${value}`} ×
          </button>
        ) : null,
      )}
    </div>
  );
}

/** The cells of one row. */
const cellsOf = (row: CrossingRow) => (
  <>
    <span role="cell">
      <Verdict verdict={row.verdict} />
    </span>
    <b role="cell" className="truncate">
      {row.personName}
    </b>
    <span role="cell" className="mono truncate">
      {row.endpoint}
    </span>
    <span role="cell" className="truncate">
      {row.locationName}
    </span>
    <span role="cell" className="truncate">
      {row.resourceName}
    </span>
    <span role="cell" className="text-right whitespace-nowrap">
      {Math.round(row.delayMs)} <span className="text-ink-3">ms</span>
    </span>
    <span role="cell" className="text-right">
      {Math.round(row.frameRate)}
    </span>
    <span role="cell" className="text-right whitespace-nowrap">
      {row.verdict === 'blocked' ? (
        '–'
      ) : (
        <>
          {row.timeToUsableS.toFixed(0)} <span className="text-ink-3">s</span>
        </>
      )}
    </span>
    <span role="cell" className={`truncate ${row.verdict === 'clear' ? 'text-ink-3' : verdictInk[row.verdict]}`}>
      {row.bay ? `${row.bay}: ` : ''}
      {row.kinds[0] ?? ''}
    </span>
  </>
);
