import { useQueryClient } from '@tanstack/react-query';
import type { Layer } from '@underpass/contracts';
import type { Change, CrossingView } from '@underpass/core';
import { useState } from 'react';
import { ApiError, call } from '../api/client.js';
import { useKeepDraft } from '../api/drafts.js';
import { useCanEdit } from '../api/session.js';
import { Gauge } from '../drawing/Gauge.js';
import { Arrow } from '../ui/Arrow.js';
import { useNotice } from '../ui/Notice.js';
import { useUndo } from '../ui/useUndo.js';
import { Strip } from '../ui/Strip.js';
import { Verdict } from '../ui/Verdict.js';
import { controlsFor, type Control } from './controls.js';
import type { CrossingAnswer } from './crossingAnswer.js';
import { ImpactDialog } from './ImpactDialog.js';

/** Try a change: on paper, before beside after; keep it, see its impact, or apply it at a layer. */
export function TryPanel({
  answer,
  now,
  tried,
  untried,
  change,
  remedy,
  onChange,
  why,
}: {
  answer: CrossingAnswer;
  now: CrossingView;
  tried: CrossingView | null;
  /** Why the change could not be worked out, if it could not. */
  untried: string | null;
  change: Change;
  remedy: string | null;
  onChange: (change: Change, text: string | null) => void;
  why: CrossingAnswer['why'];
}) {
  const { facts } = answer;
  const client = useQueryClient();
  const notice = useNotice();
  const undo = useUndo();
  const drafts = useKeepDraft();
  const canEdit = useCanEdit();
  const [layer, setLayer] = useState<Layer>('location');
  const [fault, setFault] = useState<string | null>(null);
  const [busy, setBusy] = useState(false);
  const [impact, setImpact] = useState(false);
  const targets: Partial<Record<Layer, { target: string; name: string }>> = {
    organisation: { target: '*', name: 'everybody' },
    location: { target: facts.location.id, name: facts.location.name },
    person: { target: facts.person.id, name: facts.person.name },
    endpoint: { target: facts.endpoint.id, name: facts.endpoint.name },
  };
  targets['device class'] = { target: facts.endpoint.deviceClass, name: `every ${facts.endpoint.deviceClass.replaceAll('-', ' ')}` };
  const group = facts.subject.groups.at(-1);
  if (group) targets.group = { target: group, name: `group ${group}` };
  const settings = change.some((edit) => edit.type === 'setting');
  const own = facts.location.ownLines;
  const shownLayer = settings ? (change.find((edit) => edit.type === 'setting')?.layer ?? layer) : layer;
  const applicable = change.length > 0 && change.every((edit) => edit.type !== 'hypothesis');
  const shown = (tried ?? now).settings;
  const set = (control: Control, option: string) => {
    const at = own && layer === 'location' ? 'endpoint' : layer;
    const target = targets[at];
    if (!target) return;
    const kept = change.filter((edit) => !(edit.type === 'setting' && edit.key === control.key));
    const back = control.read(now.settings[control.key]) === option;
    onChange(
      back ? kept : [...kept, { type: 'setting', key: control.key, layer: at, target: target.target, value: control.write(option) }],
      null,
    );
  };
  const move = (next: Layer) => {
    setLayer(next);
    const target = targets[next];
    if (target)
      onChange(
        change.map((edit) => (edit.type === 'setting' ? { ...edit, layer: next, target: target.target } : edit)),
        remedy,
      );
  };
  const summary =
    remedy ??
    change
      .map((edit) =>
        edit.type === 'setting'
          ? `${edit.key} = ${String(edit.value)} at ${edit.target === '*' ? 'the organisation' : edit.target}`
          : edit.type === 'object'
            ? `${edit.kind} ${edit.id}: ${edit.field}`
            : edit.fact,
      )
      .join(', ');
  const run = async (work: () => Promise<void>) => {
    setBusy(true);
    setFault(null);
    try {
      await work();
    } catch (error) {
      setFault(error instanceof ApiError ? error.message : 'That failed. Try again.');
    }
    setBusy(false);
  };
  const refresh = () => client.invalidateQueries();
  const apply = () =>
    run(async () => {
      const { changeId } = await call<{ changeId: string }>('changes', 'POST', {
        change,
        summary: summary.slice(0, 300),
        seen: answer.version,
      });
      await refresh();
      onChange([], null);
      notice({
        text: `Applied: ${summary}. It is in force from now on.`,
        action: { label: 'Take it back', run: () => undo(changeId, `Taken back: ${summary}.`) },
      });
    });
  const keep = () =>
    run(async () => {
      await drafts.keep(summary, { crossing: answer.id, change });
      notice({ text: `Kept as draft: ${summary}. Nothing is applied.` });
    });
  return (
    <section id="try-a-change" aria-labelledby="try" className="pt-3 min-w-0">
      <h2 id="try">
        Try a change <small className="font-normal text-[13px] text-ink-3 ml-2">on paper, nothing is applied</small>
      </h2>
      <div className="grid grid-cols-[minmax(0,1fr)] min-[1180px]:grid-cols-2 gap-x-6 gap-y-[7px] mt-2">
        {controlsFor(now).map((control) => {
          const inForce = control.read(now.settings[control.key]);
          const options = control.options.includes(inForce) ? control.options : [...control.options, inForce];
          return (
            <div key={control.key} className="flex items-center gap-2" title={`Now ${inForce}, from ${why[control.key].from}`}>
              <span className="w-[82px] text-ink-2 flex-none">{control.label}</span>
              <Strip
                label={control.label}
                options={options}
                value={control.read(shown[control.key])}
                inForce={inForce}
                {...(control.words ? { words: control.words } : {})}
                onChange={(option) => set(control, option)}
              />
            </div>
          );
        })}
      </div>
      <p className="text-ink-3 mt-2">
        <span className="border-b-[1.5px] border-dotted border-current">dotted</span> is how it is now
        {remedy && <span className="text-ink ml-3">Trying: {remedy}</span>}
      </p>
      <table className="w-full border-collapse mt-2">
        <thead>
          <tr className="head">
            <th scope="col" className="font-normal py-1">
              How it is
            </th>
            <th scope="col" className="font-normal text-right pr-3">
              <span className="inline-flex gap-1.5">
                <Verdict verdict={now.verdict} /> before
              </span>
            </th>
            <th scope="col" className="font-normal" colSpan={2}>
              {tried && (
                <span className="inline-flex gap-1.5">
                  <Verdict verdict={tried.verdict} /> after
                </span>
              )}
            </th>
            <th scope="col" className="font-normal whitespace-nowrap">
              better
              <Arrow />
            </th>
            <th scope="col" className="font-normal text-right">
              wanted
            </th>
          </tr>
        </thead>
        <tbody>
          {now.compare.map((row) => {
            const after = tried?.compare.find((other) => other.name === row.name);
            const show = (value: number | null | undefined) =>
              value === null || value === undefined ? 'not known' : value.toFixed(row.digits);
            const wanted = after?.wanted ?? row.wanted;
            return (
              <tr key={row.name} className="border-b border-rule h-6">
                <th scope="row" className="text-left font-normal">
                  {row.name}
                </th>
                <td className={`text-right pr-3 ${row.verdict === 'limited' ? 'text-amber' : 'text-ink-2'}`}>{show(row.value)}</td>
                <td className={`text-right text-[14px] font-bold pr-1 ${after?.verdict === 'limited' ? 'text-amber' : ''}`}>
                  {after ? show(after.value) : ''}
                </td>
                <td className="text-ink-3 text-[12.5px] whitespace-nowrap pr-2">{row.unit}</td>
                <td>
                  <Gauge before={row.value} after={after?.value ?? null} wanted={wanted} better={row.better} />
                </td>
                <td className="text-right text-ink-2 whitespace-nowrap">
                  {wanted === null ? '–' : `${row.better === 'less' ? 'at most' : 'at least'} ${Number(wanted.toFixed(1))}`}
                </td>
              </tr>
            );
          })}
        </tbody>
      </table>
      <p role="alert" className="text-brick mt-2 empty:hidden">
        {fault ?? (untried && `This change could not be worked out: ${untried}. Nothing of it is shown or applied.`)}
      </p>
      {change.length > 0 && (
        <div className="mt-3 flex flex-wrap gap-3 items-center no-print">
          {settings && (
            <label className="flex items-center gap-2">
              For
              <select className="field" value={shownLayer} onChange={(event) => move(event.target.value as Layer)}>
                {(Object.entries(targets) as [Layer, { name: string }][]).map(([key, target]) => (
                  <option key={key} value={key}>
                    {target.name} ({key})
                  </option>
                ))}
              </select>
            </label>
          )}
          {canEdit && (
            <button
              className="btn btn-primary"
              disabled={!applicable || busy || untried !== null}
              onClick={() => void apply()}
              title={applicable ? undefined : 'This waits for work outside; it cannot be applied from here'}
            >
              {settings || change.length === 0 ? 'Apply' : 'Record as done'}
            </button>
          )}
          <button data-impact className="btn" disabled={!applicable} onClick={() => setImpact(true)}>
            See impact on the estate
          </button>
          {canEdit && (
            <button data-draft className="btn" disabled={busy} onClick={() => void keep()}>
              Keep as draft
            </button>
          )}
          <button className="btn btn-quiet" onClick={() => onChange([], null)}>
            Back to now
          </button>
        </div>
      )}
      {impact && <ImpactDialog change={change} summary={summary} onClose={() => setImpact(false)} />}
    </section>
  );
}
