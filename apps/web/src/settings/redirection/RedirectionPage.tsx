import { useQuery } from '@tanstack/react-query';
import { emptyEstate, type Change, type Peripheral, type UsbRule } from '@underpass/contracts';
import { lettingThrough, moved, orderedAs, made, modelOf, rulesInOrder, shadowed } from '@underpass/core';
import { useMemo, useState } from 'react';
import { Link } from 'react-router';
import { useCanEdit } from '../../api/session.js';
import { useTitle } from '../../shell/useTitle.js';
import { Failed, Loading } from '../../ui/States.js';
import { Wide } from '../../ui/Wide.js';
import { CrossingChoice } from '../CrossingChoice.js';
import { together } from '../draftSteps.js';
import { settingsQueries } from '../queries.js';
import { stepsOf } from '../stepWords.js';
import { useDraft } from '../useDraft.js';
import { DuctBank } from './DuctBank.js';
import { DuctTable } from './DuctTable.js';
import { PlugPanel } from './PlugPanel.js';
import { ReadDevice } from './ReadDevice.js';
import { RuleTable } from './RuleTable.js';
import { classesOf, deviceText } from './words.js';
import { useAddress } from '../../ui/useAddress.js';

const nothing: Change = { patches: [], hypotheses: [] };

/** The rules as they would be after a draft. */
function rulesAfter(rules: readonly UsbRule[], change: Change | null): UsbRule[] {
  const patches = (change?.patches ?? []).filter((patch) => 'kind' in patch && patch.kind === 'usbRule');
  if (patches.length === 0) return rulesInOrder(rules);
  const { writes } = made(modelOf({ ...emptyEstate(), usbRule: [...rules] }, []), { patches, hypotheses: [] }, 0);
  const left = new Map(rules.map((rule) => [rule.id, rule]));
  for (const { id, after } of writes) {
    if (after) left.set(id, after as UsbRule);
    else left.delete(id);
  }
  return rulesInOrder(left.values());
}

/** What of a desk reaches the session: the ducts of a crossing end-on, the rules that decide, and what happens when something is plugged in. */
export function RedirectionPage() {
  useTitle('Redirection');
  const canEdit = useCanEdit();
  const { search, set } = useAddress();
  const crossing = search.get('crossing') ?? '';
  const working = useDraft(search.get('draft'), (id) => set({ draft: id }));
  const change = working.draft?.change ?? null;
  const rules = useQuery(settingsQueries.rules());
  const now = useQuery(settingsQueries.ducts(crossing, null));
  const then = useQuery({ ...settingsQueries.ducts(crossing, change), enabled: crossing !== '' && change !== null });
  const [read, setRead] = useState<Peripheral[]>([]);
  const [looked, setLooked] = useState<Peripheral | null>(null);
  const plugged = useQuery(settingsQueries.plug(crossing, looked, {}, change));
  const known = useMemo(() => (rules.data?.rules ?? []).map(({ rule }) => rule), [rules.data]);
  const shown = useMemo(() => rulesAfter(known, change), [known, change]);
  if (rules.isPending) return <Loading what="the rules" />;
  if (rules.isError) return <Failed page what="The rules" error={rules.error} onRetry={() => void rules.refetch()} />;
  const hidden = new Map(shadowed(shown).map(({ rule, by }) => [rule.id, by.name ?? by.id]));
  const counts = new Map(rules.data.rules.map(({ rule, devices }) => [rule.id, devices]));
  const write = (more: Change, name: string) => void working.write(together(change ?? nothing, more), name);
  const split = (device: Peripheral, rule: string | null) =>
    classesOf(device).length < 2 || !canEdit ? null : (
      <p className="flex flex-wrap gap-2 items-center">
        <span>Let through only</span>
        {classesOf(device).map((code) => (
          <button
            key={code}
            className="btn btn-small"
            disabled={working.busy}
            onClick={() => write(lettingThrough(shown, device, [code], rule), `${deviceText(device)} by function`)}
          >
            {code === '01' ? 'its sound' : code === '03' ? 'its buttons' : code === '0e' ? 'its camera' : code}
          </button>
        ))}
        <span className="text-ink-3">as a draft</span>
      </p>
    );
  const ducts = now.data?.ducts ?? [];
  const reach = ducts.filter(({ carriedAs }) => carriedAs !== 'local only' && carriedAs !== 'not allowed').length;
  const twice = ducts.find(({ claimedTwice }) => claimedTwice);
  return (
    <div className="grid gap-x-8 gap-y-6 grid-cols-[minmax(0,1fr)] min-[1100px]:grid-cols-[minmax(0,1fr)_minmax(0,580px)]">
      <div className="min-w-0">
        <h1>
          {now.data && crossing
            ? `${now.data.between.person} at ${now.data.between.location}: ${reach} of ${ducts.length} functions reach the session`
            : 'What of a desk reaches the session'}
        </h1>
        {twice && (
          <p className="text-brick font-semibold">
            {twice.name} is claimed twice: carried to the session, and by “call sound on the endpoint”. Whichever takes it first keeps it.
          </p>
        )}
        <div className="my-2">
          <CrossingChoice name="For" id={crossing} onId={(id) => set({ crossing: id })} />
        </div>
        {crossing === '' && (
          <p className="text-ink-2">
            Choose a person, and what they open: the ducts of their desk are drawn here, and a device can be plugged in on paper.
          </p>
        )}
        {now.isError && <Failed what="The ducts" error={now.error} onRetry={() => void now.refetch()} />}
        {crossing !== '' && now.isPending && <Loading what="the ducts" />}
        {crossing !== '' && now.data && (
          <>
            {change && then.data && <p className="font-semibold">Now</p>}
            <Wide label="Ducts of the crossing">
              <DuctBank ducts={ducts} label="Ducts now, function by function; the table below says the same" />
            </Wide>
            {change && then.data && (
              <>
                <p className="font-semibold mt-3">With the draft</p>
                <Wide label="Ducts with the draft">
                  <DuctBank ducts={then.data.ducts} label="Ducts with the draft; the table below says the same" />
                </Wide>
              </>
            )}
            <DuctTable ducts={(change ? then.data?.ducts : null) ?? ducts} />
            <PlugPanel
              key={crossing}
              crossing={crossing}
              devices={[...now.data.devices, ...read]}
              change={change}
              onDecided={setLooked}
              split={split}
            />
            <ReadDevice endpoint={now.data.between.endpoint} onRead={setRead} />
          </>
        )}
      </div>
      <div className="min-w-0 min-[1100px]:border-l border-rule min-[1100px]:pl-5">
        <h2>
          Rules{' '}
          <small className="font-normal text-[13px] text-ink-3 ml-2">first one that fits decides; what none names is not allowed</small>
        </h2>
        <Wide label="Rules">
          <RuleTable
            rules={shown.map((rule) => ({
              rule,
              devices: counts.get(rule.id) ?? null,
              shadowedBy: hidden.get(rule.id) ?? null,
              fresh: !counts.has(rule.id),
            }))}
            deciding={looked ? (plugged.data?.rule?.id ?? null) : null}
            canEdit={canEdit}
            onMove={(id, to) =>
              write(
                orderedAs(
                  shown,
                  moved(
                    shown.map((rule) => rule.id),
                    id,
                    to,
                  ),
                ),
                'Another order of rules',
              )
            }
          />
        </Wide>
        {canEdit && (
          <p className="mt-2">
            <Link className="link min-h-[24px] inline-flex items-center" to="/estate/usbRule/new">
              Write a rule
            </Link>
          </p>
        )}
        {working.fault && (
          <p role="alert" className="text-brick mt-2">
            {working.fault}
          </p>
        )}
        {working.draft && (
          <section aria-label="Change on paper" className="mt-4">
            <h2>
              Change on paper <small className="font-normal text-[13px] text-ink-3 ml-2">nothing is applied</small>
            </h2>
            <ul className="mt-1 border-t-[1.5px] border-ink">
              {stepsOf(working.draft.change).map((text) => (
                <li key={text} className="border-b border-rule py-1">
                  {text}
                </li>
              ))}
            </ul>
            <p className="flex flex-wrap gap-2 mt-2">
              <Link className="btn btn-primary" to={`/settings/drafts/${working.draft.id}`}>
                See impact, and apply it
              </Link>
              <button className="btn" disabled={working.busy} onClick={() => void working.drop()}>
                Drop it
              </button>
            </p>
          </section>
        )}
        {rules.data.unnamed.length > 0 && (
          <section aria-label="Devices no rule names" className="mt-5">
            <h2>Devices no rule names</h2>
            <ul className="mt-1">
              {rules.data.unnamed.slice(0, 12).map(({ device, endpoint }) => (
                <li key={device.id} className="border-b border-rule py-1">
                  {deviceText(device)} at {endpoint}
                </li>
              ))}
            </ul>
          </section>
        )}
      </div>
    </div>
  );
}
