import type { CrossingRow } from '@underpass/contracts/words';
import { EditableList, type Edit } from '../estate/EditableList.js';
import { useCanEdit } from '../api/session.js';
import { ExportButton } from '../ui/ExportButton.js';
import { ColumnsMenu } from '../ui/list/ColumnsMenu.js';
import { PrintButton } from '../ui/list/PrintButton.js';
import { useChosenRows } from '../ui/list/useChosenRows.js';
import { useListAddress } from '../ui/list/useListAddress.js';
import { useListPages } from '../ui/list/useListPages.js';
import { WaysIn } from '../intake/WaysIn.js';
import { Empty, Failed } from '../ui/States.js';
import { Strip } from '../ui/Strip.js';
import { useTitle } from '../shell/useTitle.js';
import { ViewsMenu } from '../views/ViewsMenu.js';
import { CrossingFilters, crossingFilters } from './CrossingFilters.js';
import { CrossingGroups } from './CrossingGroups.js';
import { crossingColumns } from './crossingList.js';
import { crossingQueries } from './queries.js';

const groupings = ['none', 'finding', 'location', 'resource'] as const;
const groupWords = { none: 'Rows', finding: 'By finding', location: 'By place', resource: 'By resource' };
/** Whose field is edited where crossings are chosen. */
const edits = (
  [
    ['endpoint', 'endpoints'],
    ['person', 'people'],
    ['location', 'locations'],
    ['resource', 'resources'],
  ] as const
).map(([kind, many]): Edit<CrossingRow> => ({ kind, label: `Edit their ${many}`, idOf: (row) => row[kind] }));

/** All crossings: filters, order and columns live in the address; rows, or groups of them. */
export function CrossingsPage() {
  const address = useListAddress(crossingColumns);
  const { get, set } = address;
  const filter = Object.fromEntries(crossingFilters.map((key) => [key, get(key)]));
  const wanted = { ...filter, sort: address.sort };
  const by = groupings.find((each) => each === get('by')) ?? 'none';
  const { pages, data, rows, total, sorting, onNearEnd, printing } = useListPages(
    (sort) => crossingQueries.list({ ...filter, sort }),
    address,
    by === 'none',
  );
  const [chosen, setChosen] = useChosenRows(filter);
  const canEdit = useCanEdit();
  useTitle('Crossings');
  const first = data?.pages[0];
  const isNone = by === 'none' && first !== undefined && total === 0 && Object.values(filter).every((value) => value === null);
  const given = Object.fromEntries(Object.entries(wanted).filter(([, value]) => value !== null));
  return (
    <div className="px-6 max-[719px]:px-4">
      <div className="pt-[15px] flex items-baseline gap-x-4 gap-y-2 flex-wrap">
        <h1>{by !== 'none' ? 'Crossings' : first ? `${total} crossing${total === 1 ? '' : 's'}` : '·····'}</h1>
        <span className="text-ink-3 flex-1 min-w-[180px]">
          a person on an endpoint through to a resource{get('sort') || by !== 'none' ? '' : ', worst first'}
        </span>
        <span className="flex gap-2 items-center flex-wrap no-print">
          <ViewsMenu />
          {by === 'none' && <ColumnsMenu columns={crossingColumns} shown={address.shown} onShown={address.onShown} />}
          {by === 'none' && <PrintButton {...printing} />}
          {canEdit && (
            <ExportButton path="crossings-exports" body={given} name="crossings.csv" small>
              Export
            </ExportButton>
          )}
        </span>
      </div>
      <CrossingFilters get={get} onSet={set} counts={first?.counts}>
        <Strip
          label="Show as"
          options={groupings}
          value={by}
          words={groupWords}
          onChange={(next) => set({ by: next === 'none' ? null : next })}
        />
      </CrossingFilters>
      {by !== 'none' && <CrossingGroups by={by} filter={filter} />}
      {isNone && <WaysIn>There is no crossing yet: it takes a person, an endpoint, a location and a resource.</WaysIn>}
      {by === 'none' && pages.isError && <Failed what="The crossings" error={pages.error} onRetry={() => void pages.refetch()} />}
      {by === 'none' && first && total === 0 && !isNone && (
        <Empty
          action={
            <button className="btn" onClick={() => set(Object.fromEntries(crossingFilters.map((key) => [key, null])))}>
              Remove all filters
            </button>
          }
        >
          No crossing fits these filters.
        </Empty>
      )}
      {by === 'none' && total > 0 && (
        <EditableList
          rows={rows}
          idOf={({ id }) => id}
          nameOf={(row) => `${row.personName}, ${row.resourceName}`}
          total={total}
          label="Crossings"
          columns={crossingColumns}
          shown={address.shown}
          {...sorting}
          chosen={chosen}
          onChosen={setChosen}
          edits={edits}
          minWidth={980}
          height="h-[calc(100vh-196px)]"
          to={(row) => `/crossings/${encodeURIComponent(row.id)}`}
          onNearEnd={onNearEnd}
        />
      )}
    </div>
  );
}
