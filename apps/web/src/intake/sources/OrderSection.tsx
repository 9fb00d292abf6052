import { useQuery, useQueryClient } from '@tanstack/react-query';
import {
  fieldsOf,
  kindWords,
  listedKinds,
  sourceWords,
  usualOrder,
  type ObjectKind,
  type SourceClass,
  type SourceOrder,
} from '@underpass/contracts';
import { ArrowLeft, ArrowRight, X } from 'lucide-react';
import { useState } from 'react';
import { call, orLookAgain } from '../../api/client.js';
import { useCanEdit } from '../../api/session.js';
import { labelOf } from '../../ui/form/labels.js';
import { Failed, Loading } from '../../ui/States.js';
import { useAction } from '../../ui/useAction.js';
import { intakeQueries } from '../queries.js';
import { moved, rulesOf, withRule, withoutRule, type Rule } from './order.js';

/** Which source decides: the usual order, and what somebody set otherwise for a kind or a field of it. */
export function OrderSection() {
  const asked = useQuery(intakeQueries.order());
  const client = useQueryClient();
  const canEdit = useCanEdit();
  const { busy, fault, run } = useAction();
  if (asked.isPending) return <Loading what="the order of sources" />;
  if (!asked.data) return <Failed what="The order of sources" error={asked.error} onRetry={() => void asked.refetch()} />;
  const order = asked.data;
  const put = async (next: SourceOrder) => {
    const { queryKey } = intakeQueries.order();
    // what is taken back later is held against what stands then
    const was = client.getQueryData(queryKey);
    const kept = await orLookAgain(call<SourceOrder>('intake/source-order', 'PUT', { order: next, was }), asked.refetch);
    client.setQueryData(queryKey, kept);
  };
  const keep = (next: SourceOrder) => void run(() => put(next));
  const drop = (rule: Rule) =>
    void run(async () => {
      await put(withoutRule(order, rule));
      return { text: `${nameOf(rule)} follows the usual order again.`, action: { label: 'Take it back', run: () => keep(order) } };
    });
  const rules = rulesOf(order);
  return (
    <section aria-labelledby="order" className="mt-6">
      <h2 id="order">Which source decides</h2>
      <p className="text-ink-2">The first that says something decides. What is set here holds for what comes from now on.</p>
      <ul className="mt-2 border-t border-rule">
        <li className="border-b border-rule py-2 grid gap-x-6 min-[720px]:grid-cols-[220px_1fr]">
          <span className="font-semibold">Usually</span>
          <Chain order={usualOrder} />
        </li>
        {rules.map((rule) => (
          <li
            key={nameOf(rule)}
            className="border-b border-rule py-2 grid gap-x-6 items-center min-[720px]:grid-cols-[220px_1fr_auto]"
            aria-label={nameOf(rule)}
          >
            <span className="font-semibold">{nameOf(rule)}</span>
            <Chain
              order={rule.order}
              {...(canEdit && !busy ? { onMove: (at, by) => keep(withRule(order, { ...rule, order: moved(rule.order, at, by) })) } : {})}
            />
            {canEdit && (
              <button className="btn btn-small" disabled={busy} aria-label={`Drop the order of ${nameOf(rule)}`} onClick={() => drop(rule)}>
                <X size={13} aria-hidden /> Drop
              </button>
            )}
          </li>
        ))}
      </ul>
      {canEdit && <NewRule order={order} busy={busy} onAdd={keep} />}
      <p role="alert" className="text-brick empty:hidden">
        {fault}
      </p>
    </section>
  );
}

const nameOf = ({ kind, field }: Rule): string => `${kindWords[kind].many}${field === null ? '' : `: ${labelOf(field)}`}`;

/** Sources in their order, each of which can be put before the one before it or behind the one behind. */
function Chain({ order, onMove }: { order: readonly SourceClass[]; onMove?: (at: number, by: -1 | 1) => void }) {
  return (
    <ol className="flex flex-wrap gap-x-2 gap-y-1 items-center">
      {order.map((source, at) => (
        <li key={source} className="flex items-center gap-1">
          {at > 0 && <span className="text-ink-3 mr-1">then</span>}
          {onMove && at > 0 && (
            <button
              className="text-tile min-h-[24px] min-w-[24px] inline-flex items-center justify-center hover:bg-earth"
              aria-label={`${sourceWords[source]} earlier`}
              onClick={() => onMove(at, -1)}
            >
              <ArrowLeft size={13} aria-hidden />
            </button>
          )}
          <span>{sourceWords[source]}</span>
          {onMove && at < order.length - 1 && (
            <button
              className="text-tile min-h-[24px] min-w-[24px] inline-flex items-center justify-center hover:bg-earth"
              aria-label={`${sourceWords[source]} later`}
              onClick={() => onMove(at, 1)}
            >
              <ArrowRight size={13} aria-hidden />
            </button>
          )}
        </li>
      ))}
    </ol>
  );
}

/** An order of its own for a kind, or for one of its fields. */
function NewRule({ order, busy, onAdd }: { order: SourceOrder; busy: boolean; onAdd: (order: SourceOrder) => void }) {
  const [kind, setKind] = useState<ObjectKind>('endpoint');
  const [field, setField] = useState('');
  const fields = [...new Set(fieldsOf(kind).map(({ name }) => name.split('.')[0] as string))].filter((name) => name !== 'id');
  const rule: Rule = { kind, field: field === '' ? null : field, order: usualOrder };
  const there = rulesOf(order).some((each) => nameOf(each) === nameOf(rule));
  return (
    <form
      className="mt-2 flex flex-wrap gap-3 items-center"
      onSubmit={(event) => {
        event.preventDefault();
        onAdd(withRule(order, rule));
      }}
    >
      <label className="flex gap-2 items-center">
        Another order for
        <select
          className="field"
          value={kind}
          onChange={({ target }) => {
            setKind(target.value as ObjectKind);
            setField('');
          }}
        >
          {listedKinds.map((each) => (
            <option key={each} value={each}>
              {kindWords[each].many}
            </option>
          ))}
        </select>
      </label>
      <label className="flex gap-2 items-center">
        Field
        <select className="field" value={field} onChange={({ target }) => setField(target.value)}>
          <option value="">every field</option>
          {fields.map((each) => (
            <option key={each} value={each}>
              {labelOf(each)}
            </option>
          ))}
        </select>
      </label>
      <button className="btn" disabled={busy || there}>
        Add
      </button>
      {there && <span className="text-ink-3">It stands above already.</span>}
    </form>
  );
}
