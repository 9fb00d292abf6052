import type { Change, DraftView, Layer } from '@underpass/contracts';
import { isApplicable, isEmpty, noChange, type CrossingView } from '@underpass/core';
import { useState } from 'react';
import { call } from '../api/client.js';
import { useKeepDraft } from '../api/drafts.js';
import { useCanEdit } from '../api/session.js';
import { Gauge } from '../drawing/Gauge.js';
import { Arrow } from '../ui/Arrow.js';
import { useNotice } from '../ui/Notice.js';
import { useAction } from '../ui/useAction.js';
import { Strip } from '../ui/Strip.js';
import { Verdict } from '../ui/Verdict.js';
import { pathTo } from './changeLink.js';
import { summaryOf } from './summaryOf.js';
import { controlsFor, type Control } from './controls.js';
import type { CrossingAnswer } from './crossingAnswer.js';
import { ImpactDialog } from './ImpactDialog.js';

/** Try a change: on paper, before beside after; keep it, see its impact, or apply it at a layer. */
export function TryPanel({
  conflicts,
  answer,
  now,
  tried,
  untried,
  change,
  remedy,
  onChange,
  why,
}: {
  /** What stands otherwise now than when the draft that is tried was kept. */
  conflicts: DraftView['conflicts'];
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
  const { between } = answer;
  const notice = useNotice();
  const drafts = useKeepDraft();
  const canEdit = useCanEdit();
  const [layer, setLayer] = useState<Layer>('location');
  const { busy, fault, run } = useAction();
  const [impact, setImpact] = useState(false);
  const targets: Partial<Record<Layer, { target: string; name: string }>> = {
    organisation: { target: '*', name: 'everybody' },
    location: { target: between.location.id, name: between.location.name },
    person: { target: between.person.id, name: between.person.name },
    endpoint: { target: between.endpoint.id, name: between.endpoint.name },
  };
  targets['device class'] = { target: between.endpoint.deviceClass, name: `every ${between.endpoint.deviceClass.replaceAll('-', ' ')}` };
  const group = between.group;
  if (group) targets.group = { target: group, name: `group ${group}` };
  const settings = change.patches.some((patch) => patch.do === 'setting');
  const own = between.location.ownLines;
  const shownLayer = settings ? (change.patches.find((patch) => patch.do === 'setting')?.layer ?? layer) : layer;
  const applicable = isApplicable(change);
  const shown = (tried ?? now).settings;
  const set = (control: Control, option: string) => {
    const at = own && layer === 'location' ? 'endpoint' : layer;
    const target = targets[at];
    if (!target) return;
    const kept = change.patches.filter((patch) => !(patch.do === 'setting' && patch.key === control.key));
    const back = control.read(now.settings[control.key]) === option;
    const patches = back
      ? kept
      : [...kept, { do: 'setting' as const, key: control.key, layer: at, target: target.target, value: control.write(option) }];
    onChange({ ...change, patches }, null);
  };
  const move = (next: Layer) => {
    setLayer(next);
    const target = targets[next];
    if (target)
      onChange(
        {
          ...change,
          patches: change.patches.map((patch) => (patch.do === 'setting' ? { ...patch, layer: next, target: target.target } : patch)),
        },
        remedy,
      );
  };
  const summary = remedy ?? summaryOf(change);
  const apply = () =>
    run(async () => {
      const { changeId } = await call<{ changeId: string }>('changes', 'POST', {
        change,
        summary: summary.slice(0, 300),
        seen: answer.version,
      });
      onChange(noChange, null);
      return { text: `Applied: ${summary}. It is in force from now on.`, changeId, takenBack: `Taken back: ${summary}.` };
    });
  const keep = () =>
    run(async () => {
      await drafts.keep(summary, { crossing: answer.id, change });
      return { text: `Kept as draft: ${summary}. Nothing is applied.` };
    });
  const copy = async () => {
    const path = pathTo(answer.id, change, summary);
    const link = `${location.origin}${path}`;
    if (!path) return notice({ text: 'This change is too large for a link. Keep it as a draft instead.' });
    try {
      await navigator.clipboard.writeText(link);
      notice({ text: 'The link is copied. Whoever opens it sees this change on paper.' });
    } catch {
      notice({ text: `The browser does not let this page copy. The link: ${link}` });
    }
  };
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
      {conflicts.length > 0 && (
        <div className="mt-2 border-l-[3px] border-amber pl-3">
          <p className="font-semibold">Changed since this draft was kept. Applying it writes over that:</p>
          <ul>
            {conflicts.map((conflict) => (
              <li key={`${conflict.kind}/${conflict.id}/${conflict.field}`}>{conflict.text}</li>
            ))}
          </ul>
        </div>
      )}
      <p role="alert" className="text-brick mt-2 empty:hidden">
        {fault ?? (untried && `This change could not be worked out: ${untried}. Nothing of it is shown or applied.`)}
      </p>
      {!isEmpty(change) && (
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
              {settings || isEmpty(change) ? 'Apply' : 'Record as done'}
            </button>
          )}
          <button data-impact className="btn" onClick={() => setImpact(true)}>
            See impact on the estate
          </button>
          {canEdit && (
            <button data-draft className="btn" disabled={busy} onClick={() => void keep()}>
              Keep as draft
            </button>
          )}
          <button className="btn" onClick={() => void copy()}>
            Copy a link
          </button>
          <button className="btn btn-quiet" onClick={() => onChange(noChange, null)}>
            Back to now
          </button>
        </div>
      )}
      {impact && <ImpactDialog change={change} summary={summary} onClose={() => setImpact(false)} />}
    </section>
  );
}
