import { kindWords, type ObjectKind } from '@underpass/contracts';
import { X } from 'lucide-react';
import { useMemo } from 'react';
import { Link } from 'react-router';
import { call, query } from '../api/client.js';
import { useCanEdit } from '../api/session.js';
import { ExportButton } from '../ui/ExportButton.js';
import { ColumnsMenu } from '../ui/list/ColumnsMenu.js';
import { PrintButton } from '../ui/list/PrintButton.js';
import { useChosenRows } from '../ui/list/useChosenRows.js';
import { SearchField } from '../ui/list/SearchField.js';
import { useListAddress } from '../ui/list/useListAddress.js';
import { useListPages } from '../ui/list/useListPages.js';
import { Empty, Failed } from '../ui/States.js';
import { useAction } from '../ui/useAction.js';
import { ViewsMenu } from '../views/ViewsMenu.js';
import { EditableList } from './EditableList.js';
import { nameOf } from './kinds.js';
import { columnsOfKind, fileOfKind, type ObjectRow } from './objectColumns.js';
import { estateQueries } from './queries.js';

const idOf = (row: ObjectRow): string => String(row.id);
const noNames = {};
/** So many are chosen in one go, and fetched by so many. */
const mostChosen = 1000;
const atOnce = 500;

/** The objects of one kind: sought through, sorted, chosen and edited many at once, exported as they are filtered. */
export function ObjectList({ kind }: { kind: ObjectKind }) {
  const address = useListAddress(useMemo(() => columnsOfKind(kind, noNames), [kind]));
  const { get, set } = address;
  const canEdit = useCanEdit();
  const filter = { search: get('search'), where: get('where') };
  const isNarrowed = Boolean(filter.search ?? filter.where);
  const wanted = { ...filter, sort: address.sort };
  const { pages, data, rows, total, sorting, onNearEnd, printing } = useListPages(
    (sort) => estateQueries.list(kind, { ...filter, sort }),
    address,
  );
  const [chosen, setChosen] = useChosenRows(filter);
  const { run, busy } = useAction('foot');
  // the names come with the pages that need them
  const columns = useMemo(() => columnsOfKind(kind, mergedNames(data?.pages.map(({ names }) => names) ?? [])), [kind, data]);
  const { one, many } = kindWords[kind];
  const given = Object.fromEntries(Object.entries(wanted).filter(([, value]) => value !== null));
  const chooseAll = () =>
    run(async () => {
      const ids: string[] = [];
      for (let offset = 0; offset < total; offset += atOnce)
        ids.push(
          ...(await call<{ rows: { id: string }[] }>(`estate/${kind}${query({ ...wanted, offset, limit: atOnce })}`)).rows.map(
            ({ id }) => id,
          ),
        );
      setChosen(new Set(ids));
    });
  return (
    <>
      <div className="flex gap-x-4 gap-y-2 items-center pb-2 flex-wrap no-print">
        <label className="flex gap-2 items-center">
          Search
          <SearchField
            className="field w-[220px]"
            placeholder="Name, id, location"
            value={wanted.search}
            onSearch={(search) => set({ search }, true)}
          />
        </label>
        {wanted.where && (
          <button className="btn btn-small" onClick={() => set({ where: null })} aria-label={`Remove the filter ${wanted.where}`}>
            {wanted.where.replace(':', ': ')}
            <X size={12} aria-hidden className="ml-1.5" />
          </button>
        )}
        <span className="text-ink-3 flex-1">{pages.data ? `${total} ${(total === 1 ? one : many).toLowerCase()}` : '·····'}</span>
        <span className="flex gap-2 items-center flex-wrap">
          <ViewsMenu />
          <ColumnsMenu columns={columns} shown={address.shown} onShown={address.onShown} />
          <PrintButton {...printing} />
          {canEdit && total > 0 && (
            <ExportButton path="estate/exports" body={{ kind, ...given }} name={fileOfKind(kind)} small>
              Export this list
            </ExportButton>
          )}
          {canEdit && (
            <Link className="btn btn-small" to={`/estate/${kind}/new`}>
              Add {/^[aeiou]/i.test(one) ? 'an' : 'a'} {one.toLowerCase()}
            </Link>
          )}
        </span>
      </div>
      {pages.isError && <Failed what="This list" error={pages.error} onRetry={() => void pages.refetch()} />}
      {data && total === 0 && (
        <Empty
          action={
            canEdit &&
            !isNarrowed && (
              <Link className="btn" to="/estate/list">
                Take in a list
              </Link>
            )
          }
        >
          {isNarrowed ? 'Nothing here fits.' : `There is no ${one.toLowerCase()} yet.`}
        </Empty>
      )}
      {total > 0 && (
        <EditableList
          rows={rows}
          idOf={idOf}
          nameOf={(row) => nameOf(kind, row)}
          total={total}
          label={many}
          columns={columns}
          shown={address.shown}
          {...sorting}
          chosen={chosen}
          onChosen={setChosen}
          edits={[{ kind, label: 'Edit a field', idOf }]}
          actions={
            chosen.size < total &&
            total <= mostChosen && (
              <button type="button" className="btn btn-small" disabled={busy} onClick={() => void chooseAll()}>
                Choose all {total}
              </button>
            )
          }
          minWidth={Math.max(700, 160 + 100 * address.shown.length)}
          height="h-[calc(100vh-222px)]"
          to={(row) => `/estate/${kind}/${encodeURIComponent(idOf(row))}`}
          onNearEnd={onNearEnd}
        />
      )}
    </>
  );
}

function mergedNames(pages: readonly Parameters<typeof columnsOfKind>[1][]): Parameters<typeof columnsOfKind>[1] {
  const all: Record<string, Record<string, string>> = {};
  for (const names of pages) for (const [kind, of] of Object.entries(names)) Object.assign((all[kind] ??= {}), of);
  return all;
}
