import { useQuery } from '@tanstack/react-query';
import type { Change } from '@underpass/contracts';
import { definitionOf } from '@underpass/core';
import { useState } from 'react';
import { boardQuery } from '../board/queries.js';
import { Failed, Loading } from '../ui/States.js';
import { settingsQueries } from './queries.js';
import { stepsOf } from './stepWords.js';

/** For a finding that many have: one entry, at the layer at which it helps most and harms nobody. */
export function Suggest({ onDraft, canEdit, busy }: { onDraft: (name: string, change: Change) => void; canEdit: boolean; busy: boolean }) {
  const board = useQuery(boardQuery());
  const kinds = board.data?.leading ?? [];
  const [kind, setKind] = useState('');
  const found = useQuery(settingsQueries.suggest(kind));
  return (
    <section aria-labelledby="suggest">
      <h2 id="suggest">One entry for many</h2>
      <label className="block text-ink-2">
        What many people have
        <select className="field w-full mt-1" value={kind} onChange={({ target }) => setKind(target.value)}>
          <option value="">choose a finding</option>
          {kinds.map((each) => (
            <option key={each.kind} value={each.kind}>
              {each.kind} ({each.people})
            </option>
          ))}
        </select>
      </label>
      {kind !== '' && found.isPending && <Loading what="every entry that could help to be tried on everybody" />}
      {found.isError && <Failed what="The suggestion" error={found.error} onRetry={() => void found.refetch()} />}
      {kind !== '' && found.data && (
        <div role="status">
          {found.data.suggestions.length === 0 ? (
            <p className="text-ink-2 py-2">No setting helps against it: {found.data.crossings} crossings have it for another reason.</p>
          ) : (
            <ul className="mt-2 border-t-[1.5px] border-ink">
              {found.data.suggestions.map((each) => {
                const [text = ''] = stepsOf(each.change);
                return (
                  <li key={text} className="border-b border-rule py-1">
                    <b className="font-semibold">{definitionOf(each.text)?.label ?? each.text}</b>: {text}
                    <span className="block text-[12.5px] text-ink-2">
                      {each.where}: helps {each.helped} crossings{each.harmed > 0 ? `, and harms ${each.harmed}` : ' and harms nobody'}
                    </span>
                    {canEdit && (
                      <button
                        className="btn btn-small my-1"
                        disabled={busy}
                        aria-label={`Make a draft: ${text}`}
                        onClick={() => onDraft(text, each.change)}
                      >
                        Make a draft
                      </button>
                    )}
                  </li>
                );
              })}
            </ul>
          )}
        </div>
      )}
    </section>
  );
}
