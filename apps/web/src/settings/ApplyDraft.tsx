import type { DraftApplied, DraftView } from '@underpass/contracts';
import { DeviceClass } from '@underpass/contracts';
import { useState } from 'react';
import { call } from '../api/client.js';
import { Pick } from '../ui/Pick.js';
import { Strip } from '../ui/Strip.js';
import { useAction } from '../ui/useAction.js';
import { AtPlace } from './AtPlace.js';
import { layerWords } from './strata.js';
import type { AtPlaceChosen, Where } from './useAtPlace.js';

const wheres: readonly Where[] = ['as drafted', 'device class', 'location', 'group', 'person', 'endpoint'];
const words: Partial<Record<Where, string>> = {
  'device class': 'a device class',
  location: 'a location',
  group: 'a group',
  person: 'a person',
  endpoint: 'an endpoint',
};

/** Applies a draft, whole or at one place; where it shuts people out, a reason is asked for and kept with it. */
export function ApplyDraft({ draft, place, onDrop }: { draft: DraftView; place: AtPlaceChosen; onDrop: () => void }) {
  const { where, target, choose, there, error } = place;
  const [reason, setReason] = useState('');
  const { busy, fault, faults, run } = useAction();
  const isNarrow = where !== 'as drafted';
  const apply = () =>
    run(async () => {
      const body = {
        seen: draft.updatedAt,
        ...(isNarrow && target && there ? { narrow: { layer: where, target: target.id, version: there.version } } : {}),
        ...(reason.trim() ? { reason: reason.trim() } : {}),
      };
      const applied = await call<DraftApplied>(`drafts/${draft.id}/apply`, 'POST', body);
      const left = applied.left > 0 ? ` ${applied.left} ${applied.left === 1 ? 'step was' : 'steps were'} left out.` : '';
      return {
        text: `Applied: ${draft.name}${isNarrow && target ? `, at ${target.name} only` : ''}. It is in force from now on.${left}`,
        applied,
        takenBack: `Taken back: ${draft.name}.`,
      };
    });
  const waits = draft.change.hypotheses.length > 0;
  return (
    <section aria-label="Apply" className="mt-4">
      <h2>Apply it</h2>
      <div className="flex flex-wrap gap-3 items-center mt-1">
        <Strip label="Where it is applied" options={wheres} value={where} words={words} onChange={(next) => choose(next, null)} />
        {isNarrow &&
          (where === 'device class' ? (
            <select
              className="field"
              aria-label="Device class"
              value={target?.id ?? ''}
              onChange={({ target: box }) => choose(where, box.value ? { id: box.value, name: box.value } : null)}
            >
              <option value="">choose one</option>
              {DeviceClass.options.map((option) => (
                <option key={option}>{option}</option>
              ))}
            </select>
          ) : (
            <Pick
              key={where}
              kind={where}
              label={`${layerWords[where]} it is applied at`}
              value={target}
              onPick={(picked) => choose(where, picked)}
            />
          ))}
      </div>
      {there && target && <AtPlace at={there} name={target.name} of={draft.change} />}
      {(faults.reason || reason !== '') && (
        <label className="block mt-2 max-w-[560px]">
          <span className="font-semibold">Why people may be shut out</span>
          <input
            className="field w-full"
            value={reason}
            maxLength={400}
            aria-invalid={Boolean(faults.reason) && reason.trim() === ''}
            onChange={({ target: box }) => setReason(box.value)}
          />
        </label>
      )}
      {(fault || error) && (
        <p role="alert" className="text-brick mt-2 max-w-[72ch]">
          {fault ?? error?.message}
        </p>
      )}
      {waits && <p className="text-ink-2 mt-2">Part of it waits for work outside. Apply it once that is done.</p>}
      <p className="flex flex-wrap gap-2 mt-3">
        <button className="btn btn-primary" disabled={busy || waits || (isNarrow && !there?.steps)} onClick={() => void apply()}>
          {busy ? 'Applying …' : isNarrow && target ? `Apply it at ${target.name} only` : 'Apply it'}
        </button>
        <button className="btn" disabled={busy} onClick={onDrop}>
          Drop the draft
        </button>
      </p>
    </section>
  );
}
