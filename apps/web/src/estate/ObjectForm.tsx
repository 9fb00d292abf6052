import { useQueryClient } from '@tanstack/react-query';
import { kindWords, columnsOf, objectSchemas, type AuditEntry, type ObjectKind, type Problem } from '@underpass/contracts';
import { useEffect, useMemo, useState } from 'react';
import { Link, useNavigate } from 'react-router';
import { ApiError, call } from '../api/client.js';
import { useCanEdit, useSession } from '../api/session.js';
import { useNotice } from '../ui/Notice.js';
import { useUndo } from '../ui/useUndo.js';
import { Failed } from '../ui/States.js';
import { useTitle } from '../shell/useTitle.js';
import { Conflict, type ConflictView } from './Conflict.js';
import { assemble, at } from './formTexts.js';
import { nameOf } from './kinds.js';
import { mergeTexts } from './merge.js';
import { ObjectHistory } from './ObjectHistory.js';
import { PersonData } from './PersonData.js';
import { ObjectField } from './ObjectField.js';
import { settingHelp, settingValue } from './settingHelp.js';

/** The form of an object, from the same definition as the files; what somebody else writes meanwhile stands beside what is typed. */
export function ObjectForm({
  kind,
  object,
  version,
  history,
  fresh,
  gone,
}: {
  kind: ObjectKind;
  object: Record<string, unknown>;
  /** The version it was read at; none for a new one. */
  version: string | null;
  history: AuditEntry[];
  fresh: boolean;
  /** It was removed while it was shown. */
  gone: boolean;
}) {
  const columns = useMemo(() => columnsOf(objectSchemas[kind]), [kind]);
  const first = useMemo(
    () => Object.fromEntries(columns.map((column) => [column.name, column.write(at(object, column.path))])),
    [columns, object],
  );
  const [texts, setTexts] = useState<Record<string, string>>(first);
  const [base, setBase] = useState(first);
  // the version the texts rest on; somebody else's later one does not replace it while something is typed here
  const [basis, setBasis] = useState(version);
  const [conflict, setConflict] = useState<ConflictView | null>(null);
  const [chosen, setChosen] = useState<Record<string, 'mine' | 'theirs'>>({});
  const [faults, setFaults] = useState<Record<string, string>>({});
  const [message, setMessage] = useState<string | null>(null);
  const [busy, setBusy] = useState(false);
  const navigate = useNavigate();
  const client = useQueryClient();
  const notice = useNotice();
  const undo = useUndo();
  const canEdit = useCanEdit();
  const isAdmin = useSession().data?.role === 'admin';
  const moved = columns.some((column) => texts[column.name] !== base[column.name]);
  useTitle(`${fresh ? `New ${kind}` : nameOf(kind, object)}`);
  useEffect(() => {
    // somebody else changed it: what is not edited here follows
    if (!moved) {
      setTexts(first);
      setBase(first);
      setBasis(version);
    }
  }, [first, moved, version]);
  useEffect(() => {
    if (!moved) return;
    const ask = (event: BeforeUnloadEvent) => event.preventDefault();
    addEventListener('beforeunload', ask);
    return () => removeEventListener('beforeunload', ask);
  }, [moved]);
  const save = async () => {
    const { object: next, faults: unread } = assemble(columns, texts);
    setFaults(unread);
    setMessage(null);
    if (Object.keys(unread).length) return setMessage('Nothing was saved. Mend the fields below.');
    if (kind === 'setting') next.value = settingValue(String(next.key), texts.value?.trim() ?? '', next.value);
    setBusy(true);
    const conditions: Record<string, string> = basis === null ? { 'if-none-match': '*' } : { 'if-match': `"${basis}"` };
    try {
      const id = String(next.id ?? '');
      if (!id)
        throw new ApiError({
          type: 'about:blank',
          title: 'Not valid',
          status: 422,
          detail: 'Give it an id.',
          fields: [{ field: 'id', problem: 'must not be empty' }],
        });
      const { changeId, version: written } = await call<{ changeId: string; version: string }>(
        `estate/${kind}/${encodeURIComponent(id)}`,
        'PUT',
        next,
        conditions,
      );
      setBase(texts);
      setBasis(written);
      setConflict(null);
      setChosen({});
      await client.invalidateQueries();
      notice({
        text: `Saved ${kindWords[kind].one.toLowerCase()} ${id}. The crossings it touches are evaluated anew.`,
        action: { label: 'Take it back', run: () => undo(changeId) },
      });
      if (fresh) void navigate(`/estate/${kind}/${encodeURIComponent(id)}`, { replace: true });
    } catch (error) {
      const problem = error instanceof ApiError ? error.problem : null;
      if (problem?.conflict) {
        meet(problem.conflict);
        setBusy(false);
        return;
      }
      setFaults(
        Object.fromEntries(
          (problem?.fields ?? []).map(({ field, problem: text }) => [
            columns.find((column) => field === column.name || field.startsWith(`${column.name}.`))?.name ?? field,
            text,
          ]),
        ),
      );
      setMessage(`Nothing was saved. ${problem?.fields ? 'Mend the fields below.' : (error as Error).message}`);
    }
    setBusy(false);
  };
  /** Somebody else wrote meanwhile: their version beside what is typed, nothing of either lost. */
  const meet = ({ now, version: later, by, at: when }: NonNullable<Problem['conflict']>) => {
    if (now === null) {
      setBasis(null);
      return setMessage(`${by} removed it meanwhile. What you typed is still here; save it to add it anew.`);
    }
    if (fresh) return setMessage(`There is one with this id already, by ${by}. Give it another id.`);
    const theirs = Object.fromEntries(columns.map((column) => [column.name, column.write(at(now, column.path))]));
    const merge = mergeTexts(
      columns.map(({ name }) => name),
      base,
      texts,
      theirs,
    );
    setConflict({ ...merge, by, at: when });
    setChosen({});
    setTexts(merge.texts);
    setBase(theirs);
    setBasis(later);
  };
  const choose = (field: string, which: 'mine' | 'theirs') => {
    const clash = conflict?.clashes.find((each) => each.field === field);
    if (!clash) return;
    setChosen((before) => ({ ...before, [field]: which }));
    setTexts((before) => ({ ...before, [field]: clash[which] }));
  };
  const undecided = conflict?.clashes.some(({ field }) => chosen[field] === undefined) ?? false;
  const remove = async () => {
    setMessage(null);
    try {
      const { changeId } = await call<{ changeId: string }>(`estate/${kind}/${encodeURIComponent(String(object.id))}`, 'DELETE');
      await client.invalidateQueries();
      notice({
        text: `Removed ${kindWords[kind].one.toLowerCase()} ${String(object.id)}.`,
        action: { label: 'Take it back', run: () => undo(changeId) },
      });
      void navigate(`/estate/${kind}`);
    } catch (error) {
      setMessage((error as Error).message);
    }
  };
  // what is being typed is not taken away: saved, it is added anew
  if (gone && !moved)
    return (
      <div className="px-6">
        <Failed what="This object" error={new Error('It was removed.')} />
      </div>
    );
  return (
    <div className="px-6 pt-[15px]">
      <p className="text-ink-3">
        <Link className="link" to={`/estate/${kind}`}>
          {kindWords[kind].many}
        </Link>
      </p>
      <h1>
        {fresh ? `New ${kindWords[kind].one.toLowerCase()}` : nameOf(kind, object)}{' '}
        {!fresh && <span className="mono font-normal text-ink-3 text-[14px] ml-1">{String(object.id)}</span>}
      </h1>
      <div className="grid grid-cols-1 min-[1000px]:grid-cols-[minmax(0,1fr)_360px] gap-x-12 mt-3">
        <form
          className="border-t-[1.5px] border-ink pt-3"
          onSubmit={(event) => {
            event.preventDefault();
            void save();
          }}
        >
          {conflict && <Conflict conflict={conflict} chosen={chosen} onChoose={choose} />}
          {gone && !message && <p className="text-amber mb-3">It was removed meanwhile. Save it to add it anew.</p>}
          {message && (
            <p role="alert" className="text-brick mb-3">
              {message}
            </p>
          )}
          <div className="grid grid-cols-[minmax(110px,150px)_minmax(0,1fr)] gap-x-3 gap-y-2">
            {columns.map((column) => (
              <ObjectField
                key={column.name}
                column={column}
                value={texts[column.name] ?? ''}
                fault={faults[column.name]}
                disabled={!canEdit || (column.name === 'id' && !fresh)}
                help={kind === 'setting' ? settingHelp(column.name, texts.key ?? '') : null}
                onChange={(text) => setTexts((now) => ({ ...now, [column.name]: text }))}
              />
            ))}
          </div>
          {canEdit && (
            <div className="flex gap-3 mt-5 sticky bottom-0 bg-paper py-3 border-t border-rule">
              <button className="btn btn-primary" disabled={busy || undecided || (!moved && !fresh)}>
                Save {kindWords[kind].one.toLowerCase()}
              </button>
              {moved && (
                <button
                  type="button"
                  className="btn"
                  onClick={() => {
                    setTexts(base);
                    setConflict(null);
                    setChosen({});
                    setFaults({});
                    setMessage(null);
                  }}
                >
                  {conflict ? `Take ${conflict.by}’s version` : 'Back to how it was'}
                </button>
              )}
              <span className="flex-1" />
              {!fresh && kind !== 'organisation' && (
                <button type="button" className="btn" onClick={() => void remove()}>
                  Remove {kindWords[kind].one.toLowerCase()}
                </button>
              )}
            </div>
          )}
        </form>
        <ObjectHistory history={history}>
          {kind === 'person' && !fresh && isAdmin && <PersonData id={String(object.id)} name={nameOf(kind, object)} />}
        </ObjectHistory>
      </div>
    </div>
  );
}
