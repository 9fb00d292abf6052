import { useQuery } from '@tanstack/react-query';
import type { Layer, Setting, SettingValue } from '@underpass/contracts';
import { catalogue, definitionOf, obeys, type SettingKey } from '@underpass/core';
import { useMemo, useState } from 'react';
import { call } from '../api/client.js';
import { useCanEdit } from '../api/session.js';
import { useTitle } from '../shell/useTitle.js';
import { Pick } from '../ui/Pick.js';
import { WaysIn } from '../intake/WaysIn.js';
import { Failed, Loading } from '../ui/States.js';
import { moment } from '../ui/times.js';
import { Wide } from '../ui/Wide.js';
import { Catalogue } from './Catalogue.js';
import { Costs } from './Costs.js';
import { DraftPanel } from './DraftPanel.js';
import { withEntry } from './draftSteps.js';
import { EditEntry } from './EditEntry.js';
import { settingsQueries } from './queries.js';
import { SettingHistory } from './SettingHistory.js';
import { Strata } from './Strata.js';
import { entriesAfter, strataOf, targetOf } from './strata.js';
import { useDraft } from './useDraft.js';
import { ruleWords, valueText } from './valueWords.js';
import { useAddress } from '../ui/useAddress.js';

const isKey = (key: string | null): key is SettingKey => key !== null && Object.hasOwn(catalogue, key);
const nothing = { patches: [], hypotheses: [] };

/** One setting for somebody: its layers as strata, why it is what it is, and a draft of another value with what that does to everybody. */
export function SettingsPage() {
  useTitle('Settings');
  const { search, set } = useAddress();
  const asked = search.get('key');
  const key: SettingKey = isKey(asked) ? asked : 'picture.frameCap';
  // somebody to look at where nobody was chosen
  const first = useQuery({
    queryKey: ['settings', 'first'],
    queryFn: () => call<{ rows: { endpoint: string }[] }>('crossings?limit=1'),
    enabled: !search.get('endpoint'),
  });
  const endpoint = search.get('endpoint') ?? first.data?.rows[0]?.endpoint ?? '';
  const today = new Date().toISOString().slice(0, 10);
  // the end of today is not gone by: it is now
  const day = search.get('at') === today ? null : search.get('at');
  const of = useQuery(
    settingsQueries.of(endpoint ? { kind: 'endpoint', id: endpoint, person: search.get('person') } : null, day ? `${day}T23:59:59Z` : null),
  );
  const working = useDraft(search.get('draft'), (id) => set({ draft: id }));
  const [chosen, setChosen] = useState<Layer>('location');
  const canEdit = useCanEdit();
  const entries = useMemo(() => (of.data?.entries ?? []).map(({ entry }) => entry), [of.data]);
  const written = useMemo(() => new Map((of.data?.entries ?? []).map(({ entry, written: by }) => [entry.id, by])), [of.data]);
  if (first.data?.rows.length === 0 && !search.get('endpoint'))
    return <WaysIn>There is nobody to look at yet: settings are in force for a person on an endpoint.</WaysIn>;
  if (first.isError) return <Failed page what="Settings" error={first.error} onRetry={() => void first.refetch()} />;
  if (of.isError) {
    const leave = search.get('at')
      ? { words: 'Back to now', act: () => set({ at: null }) }
      : { words: 'Look at somebody else', act: () => set({ endpoint: null, person: null }) };
    return <Failed page what="Settings" error={of.error} onRetry={() => void of.refetch()} leave={leave} />;
  }
  if (!of.data) return <Loading what="the settings in force" />;
  const { subject, names, platform, past } = of.data;
  const definition = definitionOf(key);
  const change = past ? null : (working.draft?.change ?? null);
  const after = entriesAfter(entries, change);
  const now = strataOf(key, entries, subject);
  const draft = change ? strataOf(key, after, subject) : null;
  const target = targetOf(chosen, subject);
  const standing = (list: readonly Setting[]) =>
    list.find((entry) => entry.key === key && entry.layer === chosen && entry.target === target && !entry.condition);
  const place = { key, layer: chosen, target };
  const write = (wanted: { value: SettingValue; locked: boolean } | null) =>
    void working.write(
      withEntry(working.draft?.change ?? nothing, place, wanted, standing(entries)),
      `${definition?.label ?? key} ${wanted ? valueText(key, wanted.value) : 'not set'}`,
    );
  const who = names.person ?? 'Whoever sits there';
  const layerNames = {
    endpoint: names.endpoint,
    person: names.person ?? 'nobody in particular',
    group: [...names.groups].reverse().join(', ') || 'in no group',
    location: names.location,
    'device class': subject.deviceClass,
    organisation: 'everybody',
  };
  const shown = draft ?? now;
  const why = shown.explanation.deciding;
  const follows = obeys(key, { clientKind: subject.clientKind, platform });
  return (
    <div className="grid gap-x-6 gap-y-6 grid-cols-[minmax(0,1fr)] min-[1000px]:grid-cols-[232px_minmax(0,1fr)_308px]">
      <Catalogue chosen={key} onChoose={(next) => set({ key: next })} entries={after} subject={subject} />
      <div className="min-w-0 min-[1000px]:border-l min-[1000px]:pl-6 border-rule">
        <h1>
          {definition?.label} <span className="mono font-normal text-[12.5px] text-ink-3">{key}</span>
        </h1>
        <p className="text-ink-2">
          {definition?.does}. Default {valueText(key, definition?.default as SettingValue)}; {definition && ruleWords[definition.merge]}.
        </p>
        <div className="flex flex-wrap gap-x-3 gap-y-2 mt-2 items-center">
          <label className="inline-flex gap-2 items-center w-[178px]">
            <span className="text-ink-3">For</span>
            <Pick
              kind="endpoint"
              label="Endpoint"
              value={{ id: endpoint, name: names.endpoint }}
              onPick={(picked) => picked && set({ endpoint: picked.id, person: null })}
            />
          </label>
          <label className="inline-flex gap-2 items-center w-[210px]">
            <span className="text-ink-3">with</span>
            <Pick
              kind="person"
              label="Person"
              value={names.person ? { id: subject.person, name: names.person } : null}
              onPick={(picked) => set({ person: picked?.id ?? null })}
            />
          </label>
          <label className="inline-flex gap-2 items-center">
            <span className="text-ink-3">on</span>
            <input
              type="date"
              className="field w-[140px]"
              aria-label="Past date"
              value={search.get('at') ?? ''}
              max={today}
              onChange={({ target: box }) => set({ at: box.value })}
            />
          </label>
        </div>
        {past && (
          <p className="text-amber mt-1">
            As it was at the end of {moment(of.data.at).split(',')[0]}.{' '}
            <button className="link min-h-[24px]" onClick={() => set({ at: null })}>
              Back to now
            </button>
          </p>
        )}
        <p className="text-[15px] leading-5 mt-2" role="status">
          {who} {draft ? 'would get' : past ? 'got' : 'gets'} <b className="text-tile">{valueText(key, shown.explanation.value)}</b>:{' '}
          {why === null
            ? 'no layer sets it, so the default holds.'
            : `${why.layer === 'organisation' ? 'the organisation' : `the ${why.layer}`} says so${shown.explanation.lockedBy?.id === why.id ? ' and locks it' : ''}${shown.explanation.hidden.length > 0 ? `, and ${shown.explanation.hidden.length === 1 ? 'one entry is' : `${shown.explanation.hidden.length} entries are`} hidden` : ''}.`}
          {!follows && <span className="text-amber"> A {subject.clientKind} on this device does not follow it.</span>}
        </p>
        <Wide label="Layers">
          <Strata
            settingKey={key}
            now={now}
            draft={draft}
            names={layerNames}
            surface={`${who} on ${names.endpoint}`}
            chosen={chosen}
            onChoose={setChosen}
            written={(id) => {
              const by = written.get(id);
              return by ? `${by.by}, ${moment(by.at).split(',')[0]}` : change ? 'in the draft' : null;
            }}
          />
        </Wide>
        {canEdit && !past && (
          <div className="mt-3">
            <EditEntry settingKey={key} layer={chosen} target={target} entry={standing(after)} busy={working.busy} onWrite={write} />
          </div>
        )}
        {!past && <Costs settingKey={key} endpoint={endpoint} person={subject.person} who={who} />}
        <SettingHistory settingKey={key} here={new Set(entries.map(({ id }) => id))} />
      </div>
      <div className="min-w-0 min-[1000px]:border-l min-[1000px]:pl-6 border-rule">
        {working.isGone && <p className="text-ink-2">That draft was dropped.</p>}
        <DraftPanel draft={working.draft} fault={working.fault} busy={working.busy} onDrop={() => void working.drop()} />
      </div>
    </div>
  );
}
