import type { ObjectKind } from '@underpass/contracts';
import { lazy, Suspense, useState } from 'react';
import { useCanEdit } from '../api/session.js';
import { ChosenBar } from '../ui/list/ChosenBar.js';
import { List, type ListProps } from '../ui/list/List.js';

const EditMany = lazy(async () => ({ default: (await import('./EditMany.js')).EditMany }));

/** Objects of which a field can be edited where rows are chosen. */
export interface Edit<T> {
  kind: ObjectKind;
  label: string;
  /** The object that a row is about. */
  idOf: (row: T) => string;
}

/** A list whose rows are chosen, copied, and edited many at once. */
export function EditableList<T extends object>({
  edits,
  actions,
  ...list
}: ListProps<T> & {
  shown: readonly string[];
  chosen: ReadonlySet<string>;
  onChosen: (chosen: ReadonlySet<string>) => void;
  edits: readonly Edit<T>[];
  /** What else can be done with the chosen rows. */
  actions?: React.ReactNode;
}) {
  const { rows, idOf, columns, shown, chosen, onChosen } = list;
  // as they were when the button was pressed: rows that are read anew behind the dialog make it no other edit
  const [edit, setEdit] = useState<{ kind: ObjectKind; ids: readonly string[] } | null>(null);
  const canEdit = useCanEdit();
  const idsOf = ({ idOf: objectOf }: Edit<T>): string[] =>
    // rows that are chosen and not fetched are objects of the list itself
    objectOf === idOf ? [...chosen] : [...new Set(rows.filter((row) => chosen.has(idOf(row))).map(objectOf))];
  return (
    <>
      <ChosenBar
        rows={rows}
        chosen={chosen}
        idOf={idOf}
        columns={columns.filter(({ id }) => shown.includes(id))}
        onClear={() => onChosen(new Set())}
      >
        {canEdit &&
          edits.map((each) => (
            <button key={each.kind} type="button" className="btn btn-small" onClick={() => setEdit({ kind: each.kind, ids: idsOf(each) })}>
              {each.label}
            </button>
          ))}
        {actions}
      </ChosenBar>
      <List {...list} />
      {edit && (
        <Suspense fallback={null}>
          <EditMany kind={edit.kind} ids={edit.ids} onClose={() => setEdit(null)} onDone={() => onChosen(new Set())} />
        </Suspense>
      )}
    </>
  );
}
