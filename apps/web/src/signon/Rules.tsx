import type { SignonRule } from '@underpass/contracts';
import { useState } from 'react';
import { call } from '../api/client.js';
import { useCanEdit } from '../api/session.js';
import { signonSteps } from './signonSteps.js';
import { Meanwhile } from '../ui/Meanwhile.js';
import { useAction } from '../ui/useAction.js';
import { useOver } from '../ui/useOver.js';

/** Rules that give requests to steps, in the order in which they are tried. A * stands for any text. */
export function Rules({
  rules,
  shipped,
  version,
  onTry,
}: {
  rules: SignonRule[];
  shipped: boolean;
  /** Version of the estate they were read at. */
  version: number;
  onTry: (rules: SignonRule[]) => void;
}) {
  const { run } = useAction('foot');
  const canEdit = useCanEdit();
  const over = useOver('signon/rules', { value: rules, version });
  const [open, setOpen] = useState(over.isTyped);
  const { value: list, change: setList } = over;
  const set = (i: number, change: Partial<SignonRule>) => {
    const next = list.map((rule, j) => {
      if (i !== j) return rule;
      const changed = { ...rule, ...change };
      // an empty field is no condition
      for (const key of ['method', 'host', 'path'] as const) if (!changed[key]) delete changed[key];
      return changed;
    });
    setList(next);
    if (next.every((rule) => rule.host ?? rule.path)) onTry(next);
  };
  const save = (wanted: SignonRule[] | null) =>
    run(async () => {
      await call('signon/rules', 'PUT', { rules: wanted, seen: over.seen });
      over.leave();
      return { text: wanted ? 'The rules are kept for everybody.' : 'The shipped rules count again.' };
    });
  return (
    <section aria-labelledby="rules" className="mt-6">
      <h2 id="rules">
        <button className="link" aria-expanded={open} onClick={() => setOpen(!open)}>
          {open ? 'Hide the rules' : `Show the ${rules.length} rules that give requests to steps`}
        </button>
        <span className="font-normal text-ink-3 text-[13px] ml-2">{shipped ? 'shipped' : 'your own'}</span>
      </h2>
      <Meanwhile what="These rules were" over={over}>
        <ol className="mono mt-1">
          {rules.map(({ step, method = '', host = '', path = '' }, i) => (
            <li key={i}>
              {step}: {[method, host, path].filter(Boolean).join(' ')}
            </li>
          ))}
        </ol>
      </Meanwhile>
      {open && (
        <>
          <table className="mt-2 border-collapse">
            <thead>
              <tr className="head">
                <th className="text-left font-normal pr-3 pb-1">Step</th>
                <th className="text-left font-normal pr-3">Method</th>
                <th className="text-left font-normal pr-3">Host</th>
                <th className="text-left font-normal pr-3">Path</th>
                <th aria-label="Order and removal" />
              </tr>
            </thead>
            <tbody>
              {list.map((rule, i) => (
                <RuleRow
                  key={i}
                  i={i}
                  rule={rule}
                  canEdit={canEdit}
                  onChange={(change) => set(i, change)}
                  onUp={() => setList(list.map((each, j) => (j === i - 1 ? rule : j === i ? (list[i - 1] as SignonRule) : each)))}
                  onRemove={() => setList(list.filter((_, j) => j !== i))}
                />
              ))}
            </tbody>
          </table>
          {canEdit && (
            <div className="flex gap-3 mt-2">
              <button className="btn" onClick={() => setList([...list, { step: 'list of resources', path: '*' }])}>
                Add a rule
              </button>
              <button
                className="btn"
                disabled={over.isBehind || !list.every((rule) => rule.host ?? rule.path)}
                onClick={() => void save(list)}
              >
                Keep these rules
              </button>
              {over.isTyped && !over.isBehind && (
                <button className="btn" onClick={over.leave}>
                  Leave them as they were
                </button>
              )}
              {!shipped && (
                <button className="btn" disabled={over.isBehind} onClick={() => void save(null)}>
                  Back to the shipped rules
                </button>
              )}
            </div>
          )}
        </>
      )}
    </section>
  );
}

function RuleRow({
  i,
  rule,
  canEdit,
  onChange,
  onUp,
  onRemove,
}: {
  i: number;
  rule: SignonRule;
  canEdit: boolean;
  onChange: (change: Partial<SignonRule>) => void;
  onUp: () => void;
  onRemove: () => void;
}) {
  return (
    <tr className="h-[34px]">
      <td className="pr-2">
        <select
          className="field"
          aria-label={`Step of rule ${i + 1}`}
          disabled={!canEdit}
          value={rule.step}
          onChange={(event) => onChange({ step: event.target.value as SignonRule['step'] })}
        >
          {signonSteps.map((step) => (
            <option key={step}>{step}</option>
          ))}
        </select>
      </td>
      <td className="pr-2">
        <select
          className="field"
          aria-label={`Method of rule ${i + 1}`}
          disabled={!canEdit}
          value={rule.method ?? ''}
          onChange={(event) => onChange({ method: (event.target.value || undefined) as never })}
        >
          <option value="">any</option>
          <option>GET</option>
          <option>POST</option>
        </select>
      </td>
      {(['host', 'path'] as const).map((field) => (
        <td key={field} className="pr-2">
          <input
            className="field mono w-[190px]"
            aria-label={`${field === 'host' ? 'Host' : 'Path'} of rule ${i + 1}`}
            readOnly={!canEdit}
            placeholder="any"
            value={rule[field] ?? ''}
            onChange={(event) => onChange({ [field]: event.target.value })}
          />
        </td>
      ))}
      {canEdit && (
        <td className="whitespace-nowrap">
          <button className="btn btn-small" disabled={i === 0} onClick={onUp}>
            Up<span className="sr-only">, rule {i + 1}</span>
          </button>{' '}
          <button className="btn btn-small" onClick={onRemove}>
            Remove<span className="sr-only"> rule {i + 1}</span>
          </button>
        </td>
      )}
    </tr>
  );
}
