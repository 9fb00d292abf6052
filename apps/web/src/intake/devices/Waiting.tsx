import { useQuery, useQueryClient } from '@tanstack/react-query';
import type { Applied, Named, WaitingDevice } from '@underpass/contracts';
import { useState } from 'react';
import { call } from '../../api/client.js';
import { estateQueries } from '../../estate/queries.js';
import { useCanEdit } from '../../api/session.js';
import { labelOf } from '../../ui/form/labels.js';
import { Pick } from '../../ui/Pick.js';
import { Failed, Loading } from '../../ui/States.js';
import { moment } from '../../ui/times.js';
import { useAction } from '../../ui/useAction.js';
import { useTyped } from '../../ui/useTyped.js';
import { intakeQueries } from '../queries.js';

/** What somebody says of a device before it is taken in. */
interface Said {
  name?: string;
  place?: Named | null;
}

/** Devices that reported and that nobody knows: taken in with a name and a place, or left out for good. */
export function Waiting() {
  const asked = useQuery(intakeQueries.waiting());
  const canEdit = useCanEdit();
  const client = useQueryClient();
  const [said, setSaid] = useTyped<Record<string, Said>>('waiting', {});
  const [chosen, setChosen] = useState<ReadonlySet<string>>(new Set());
  const { busy, fault, refuse, run } = useAction();
  const rows = asked.data ?? [];
  const likely = useQuery(estateQueries.named('location', [...new Set(rows.flatMap(({ location }) => (location ? [location] : [])))]));
  if (asked.isPending) return <Loading what="the devices that wait" />;
  if (!asked.data) return <Failed what="The devices that wait" error={asked.error} onRetry={() => void asked.refetch()} />;
  const placeOf = (device: WaitingDevice): Named | null => {
    const own = said[device.id]?.place;
    return own !== undefined ? own : (likely.data?.rows.find(({ id }) => id === device.location) ?? null);
  };
  const wanted = rows.filter(({ id }) => chosen.has(id));
  const put = (id: string, on: boolean) => {
    const next = new Set(chosen);
    if (on) next.add(id);
    else next.delete(id);
    setChosen(next);
  };
  const again = async () => {
    setChosen(new Set());
    await client.invalidateQueries({ queryKey: intakeQueries.waiting().queryKey });
  };
  const take = () => {
    const lost = wanted.find((device) => !placeOf(device));
    if (lost) return refuse(`Say where ${lost.name} is.`);
    return run(async () => {
      const devices = wanted.map((device) => ({
        id: device.id,
        name: said[device.id]?.name?.trim() || device.name,
        location: placeOf(device)?.id,
      }));
      const applied = await call<Applied>('intake/waiting/take', 'POST', { devices });
      await again();
      return { text: `${devices.length === 1 ? '1 device was' : `${devices.length} devices were`} taken in.`, applied };
    });
  };
  const drop = () =>
    run(async () => {
      await call('intake/waiting/drop', 'POST', { ids: wanted.map(({ id }) => id) });
      await again();
      return { text: 'They are not shown again.' };
    });
  return (
    <section aria-labelledby="waiting" className="mt-6">
      <h2 id="waiting">
        {rows.length === 0 ? 'No device waits' : `${rows.length === 1 ? '1 device waits' : `${rows.length} devices wait`} to be taken in`}
      </h2>
      {rows.length > 0 && (
        <>
          {canEdit && (
            <label className="flex gap-2 items-center mt-1">
              <input
                type="checkbox"
                checked={wanted.length === rows.length}
                onChange={({ target }) => setChosen(new Set(target.checked ? rows.map(({ id }) => id) : []))}
              />
              All of them
            </label>
          )}
          <ul className="mt-1 border-t border-rule">
            {rows.map((device) => (
              <Device
                key={device.id}
                device={device}
                place={placeOf(device)}
                said={said[device.id] ?? {}}
                chosen={chosen.has(device.id)}
                {...(canEdit
                  ? {
                      onChoose: (on: boolean) => put(device.id, on),
                      onSay: (more: Said) => setSaid({ ...said, [device.id]: { ...said[device.id], ...more } }),
                    }
                  : {})}
              />
            ))}
          </ul>
          {canEdit && (
            <p className="mt-2 flex flex-wrap gap-3 items-center">
              <button className="btn btn-primary" disabled={busy || wanted.length === 0} onClick={() => void take()}>
                Take in {wanted.length === 0 ? 'what is chosen' : wanted.length === 1 ? '1 device' : `${wanted.length} devices`}
              </button>
              <button className="btn" disabled={busy || wanted.length === 0} onClick={() => void drop()}>
                They are none of ours
              </button>
              <span role="alert" className="text-brick empty:hidden">
                {fault}
              </span>
            </p>
          )}
        </>
      )}
    </section>
  );
}

function Device({
  device,
  place,
  said,
  chosen,
  onChoose,
  onSay,
}: {
  device: WaitingDevice;
  place: Named | null;
  said: Said;
  chosen: boolean;
  onChoose?: (on: boolean) => void;
  onSay?: (more: Said) => void;
}) {
  const { name, batch, at, why, fields } = device;
  return (
    <li
      className="border-b border-rule py-2 grid gap-x-4 gap-y-1 grid-cols-[24px_1fr] min-[900px]:grid-cols-[24px_200px_260px_1fr] items-start"
      aria-label={name}
    >
      <input
        type="checkbox"
        className="mt-2"
        aria-label={`Choose ${name}`}
        checked={chosen}
        disabled={!onChoose}
        onChange={({ target }) => onChoose?.(target.checked)}
      />
      <span>
        <input
          className="field w-full"
          aria-label={`Name of ${name}`}
          maxLength={120}
          value={said.name ?? name}
          disabled={!onSay}
          onChange={({ target }) => onSay?.({ name: target.value })}
        />
        <span className="block text-ink-3">
          {batch}, {moment(at)}
        </span>
      </span>
      <span className="col-start-2 min-[900px]:col-start-auto">
        <Pick
          kind="location"
          label={`Place of ${name}`}
          value={place}
          placeholder="Where it is"
          onPick={(next) => onSay?.({ place: next })}
        />
        <span className="block text-ink-3">{why}</span>
      </span>
      <span className="col-start-2 min-[900px]:col-start-auto text-ink-2 pt-1.5">
        {fields.map(({ field, value }) => (
          <span key={field} className="inline-block mr-3">
            <span className="text-ink-3">{labelOf(field)}</span> {value}
          </span>
        ))}
      </span>
    </li>
  );
}
