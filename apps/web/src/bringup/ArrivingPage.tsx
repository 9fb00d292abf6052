import { useQuery } from '@tanstack/react-query';
import type { BringupPlace } from '@underpass/contracts';
import { Link, useParams } from 'react-router';
import { useTitle } from '../shell/useTitle.js';
import { Empty, NotHere } from '../ui/States.js';
import { Sheet, toPlace } from './Sheet.js';
import { bringupQueries } from './queries.js';
import { megabytes, stepWords } from './words.js';

type Device = BringupPlace['devices'][number];
/** Something that is missing before devices arrive, what to do, and for which of them. */
interface Missing {
  what: string;
  todo: string;
  devices: readonly Device[];
  more?: { to: string; text: string };
  /** It keeps none from starting by itself. */
  minor?: true;
}

/** A batch of devices before it arrives at a place: what is missing, so that they start when they are unpacked. */
export function ArrivingPage() {
  const { place: id = '' } = useParams();
  const answer = useQuery(bringupQueries.place(id));
  const name = answer.data?.name ?? id;
  useTitle(`Before they arrive: ${name}`);
  if (!answer.data) return <NotHere asked={answer} awaits="what is missing" what="This place" />;
  const fresh = answer.data.devices.filter(({ isNew }) => isNew);
  const missing = missingOf(answer.data, fresh);
  const whole = fresh.filter(({ broken }) => !broken).length;
  // whoever comes last finds no address
  const { free, wanted } = answer.data.addresses;
  const short = free !== null && free < wanted && free < whole;
  const starts = short ? free : whole;
  if (fresh.length === 0 && answer.data.undescribed === 0)
    return (
      <Sheet back={toPlace(id, name)}>
        <h1>No new device is on its way to {name}</h1>
        <Empty
          action={
            <Link className="btn" to="/estate/list">
              Take in a list of devices
            </Link>
          }
        >
          Devices that never reported are new. Take in their list, and it is seen here what is missing before they arrive.
        </Empty>
      </Sheet>
    );
  return (
    <Sheet back={toPlace(id, name)}>
      <h1>
        {fresh.length === 1 ? 'One new device' : `${fresh.length} new devices`} for {name}:{' '}
        {starts === fresh.length ? 'all of them' : short ? `at most ${starts}` : starts} will start
      </h1>
      <p className="text-ink-2 max-w-[72ch]">
        {missing.length === 0
          ? 'Nothing is missing: unpack them, and switch them on.'
          : `${missing.length === 1 ? 'One thing is' : `${missing.length} things are`} missing. What stops most of them comes first.`}
      </p>
      <ol className="mt-4 border-t-[1.5px] border-ink" aria-label="What is missing">
        {missing.map(({ what, todo, devices, more, minor }) => (
          <li
            key={what}
            className="border-b border-rule py-2 grid gap-x-6 grid-cols-[minmax(0,1fr)] min-[900px]:grid-cols-[minmax(0,1fr)_320px]"
          >
            <div>
              <strong className={minor ? '' : 'text-brick'}>{what}</strong>
              <p>{todo}</p>
              {more && (
                <Link className="link min-h-[24px] inline-flex items-center" to={more.to}>
                  {more.text}
                </Link>
              )}
            </div>
            <p className="text-ink-2">
              {devices.length > 0 && `${devices.length === 1 ? 'One device' : `${devices.length} devices`}: `}
              {devices.slice(0, 8).map((device, i) => (
                <span key={device.id}>
                  {i > 0 && ', '}
                  <Link className="link mono" to={`/bringup/${encodeURIComponent(id)}?device=${encodeURIComponent(device.id)}`}>
                    {device.id}
                  </Link>
                </span>
              ))}
              {devices.length > 8 && ` and ${devices.length - 8} more`}
            </p>
          </li>
        ))}
      </ol>
    </Sheet>
  );
}

function missingOf({ id, addresses, undescribed }: BringupPlace, fresh: readonly Device[]): Missing[] {
  const place = encodeURIComponent(id);
  const found: Missing[] = [];
  const byCause = new Map<string, Missing & { devices: Device[] }>();
  for (const device of fresh) {
    if (!device.broken) continue;
    const { cause, mend, step } = device.broken;
    const known = byCause.get(cause);
    if (known) known.devices.push(device);
    else byCause.set(cause, { what: cause, todo: `${mend} Until then: stopped at “${stepWords(step)}”.`, devices: [device] });
  }
  found.push(...[...byCause.values()].sort((a, b) => b.devices.length - a.devices.length));
  if (addresses.free !== null && addresses.free < addresses.wanted)
    found.unshift({
      what: `${addresses.wanted} addresses are wanted, ${addresses.free} are free.`,
      todo: 'Widen the scope of the place, or the last of them find no address.',
      devices: [],
      more: { to: '/estate/scope', text: 'Open the scopes' },
    });
  if (undescribed > 0)
    found.push({
      what: `${undescribed === 1 ? 'One thin device is' : `${undescribed} thin devices are`} of a class that nobody described.`,
      todo: 'Say what its devices call themselves, and in which option they look for their settings server; until then nobody knows whether they start.',
      devices: [],
      more: { to: '/estate/deviceClass/new', text: 'Describe the class' },
      minor: true,
    });
  const install = fresh.filter(({ firmware }) => firmware !== null);
  const megabytesInAll = install.reduce((sum, { firmware }) => sum + (firmware?.sizeMB ?? 0), 0);
  if (install.length > 0)
    found.push({
      what: `${install.length === 1 ? 'One of them installs' : `${install.length} of them install`} other firmware first: ${megabytes(megabytesInAll)} over the line of the place.`,
      todo: 'Plan it, so that people go on working meanwhile.',
      devices: install,
      more: { to: `/bringup/${place}/transfer`, text: 'See how it comes there' },
      minor: true,
    });
  return found;
}
