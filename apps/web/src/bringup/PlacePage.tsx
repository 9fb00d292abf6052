import type { BringupPlace } from '@underpass/contracts';
import { useQuery } from '@tanstack/react-query';
import { Link, useParams, useSearchParams } from 'react-router';
import { useTitle } from '../shell/useTitle.js';
import { Failed, Loading, NotHere } from '../ui/States.js';
import { BoreholeLog } from './BoreholeLog.js';
import { DeviceList } from './DeviceList.js';
import { MergedValues } from './MergedValues.js';
import { Messages } from './Messages.js';
import { Sheet } from './Sheet.js';
import { bringupQueries } from './queries.js';
import { WhatItIs } from './WhatItIs.js';
import { seconds, stepWords } from './words.js';

/** The devices of a place, and the start of one of them step by step. */
export function PlacePage() {
  const { place: id = '' } = useParams();
  const [search] = useSearchParams();
  const answer = useQuery(bringupQueries.place(id));
  const devices = answer.data?.devices ?? [];
  const asked = search.get('device');
  const chosen = devices.find((device) => device.id === asked)?.id ?? devices[0]?.id ?? '';
  const pathOf = (device: string) => `/bringup/${encodeURIComponent(id)}?device=${encodeURIComponent(device)}`;
  useTitle(answer.data ? `Bring-up: ${answer.data.name}` : 'Bring-up');
  if (!answer.data) return <NotHere asked={answer} awaits="the devices of this place" what="This place" />;
  const { name } = answer.data;
  const stopped = devices.filter(({ broken }) => broken).length;
  return (
    <Sheet back={{ to: '/bringup', name: 'All places' }}>
      <div className="grid gap-x-5 grid-cols-[minmax(0,1fr)] min-[900px]:grid-cols-[280px_minmax(0,1fr)]">
        <div className="min-w-0">
          <h1>{devices.length === 0 ? name : `${name}: ${devices.length - stopped} of ${devices.length} are ready`}</h1>
          <Addresses {...answer.data.addresses} />
          <p className="text-ink-2 mb-2 pb-2 border-b-[1.5px] border-ink">
            {devices.length === 0
              ? 'No device of a described class stands here.'
              : stopped === 0
                ? 'All reach their sign-in screen.'
                : stopped === 1
                  ? 'One stops before the sign-in.'
                  : `${stopped} stop before the sign-in.`}
          </p>
          <p className="pb-1 flex flex-wrap gap-x-4">
            {devices.some(({ isNew }) => isNew) && (
              <Link className="link min-h-[24px] inline-flex items-center" to={`/bringup/${encodeURIComponent(id)}/arriving`}>
                Before they arrive
              </Link>
            )}
            <Link className="link min-h-[24px] inline-flex items-center" to={`/bringup/${encodeURIComponent(id)}/transfer`}>
              Firmware on its way here
            </Link>
            <Link className="link min-h-[24px] inline-flex items-center" to={`/bringup/${encodeURIComponent(id)}/joining`}>
              Wi-Fi card
            </Link>
          </p>
          <DeviceList place={answer.data} chosen={chosen} pathOf={pathOf} />
        </div>
        {chosen !== '' && <Start key={chosen} id={chosen} />}
      </div>
    </Sheet>
  );
}

/** One device: its log, its messages, and what it is. */
function Start({ id }: { id: string }) {
  const answer = useQuery(bringupQueries.boot(id));
  if (answer.isPending) return <Loading what={`the start of ${id}`} />;
  if (!answer.data) return <Failed what={id} error={answer.error} onRetry={() => void answer.refetch()} />;
  const boot = answer.data;
  const { broken } = boot;
  return (
    <div className="min-w-0 grid gap-x-5 content-start grid-cols-[minmax(0,1fr)] min-[900px]:border-l border-rule min-[900px]:pl-4 max-[900px]:mt-5 min-[1200px]:grid-cols-[minmax(0,1fr)_272px]">
      <div className="min-w-0">
        <h2 className="text-[20px] leading-[26px]">
          {broken ? `${id} stops at “${stepWords(broken.step)}”` : `${id} reaches its sign-in after ${seconds(boot.totalMs)}`}
        </h2>
        <p className="text-ink-2 mb-4">{broken ? broken.cause : `Every step of its next start, at ${boot.location.name}.`}</p>
      </div>
      {/* on a narrow page what it is comes before the log */}
      <div className="min-w-0 max-[1200px]:mb-6 min-[1200px]:border-l border-rule min-[1200px]:pl-4 min-[1200px]:col-start-2 min-[1200px]:row-start-1 min-[1200px]:row-span-2">
        <WhatItIs boot={boot} />
      </div>
      <div className="min-w-0 min-[1200px]:col-start-1 min-[1200px]:row-start-2">
        <BoreholeLog boot={boot} />
        <Messages messages={boot.messages} />
        <MergedValues values={boot.values} />
      </div>
    </div>
  );
}

/** Whether there are addresses for the devices that never started here. */
function Addresses({ free, wanted }: BringupPlace['addresses']) {
  if (wanted === 0 || free === null) return null;
  const few = free < wanted;
  return (
    <p className={few ? 'text-brick' : 'text-ink-2'}>
      {wanted === 1 ? 'One device is' : `${wanted} devices are`} new here; {free === 1 ? 'one address is' : `${free} addresses are`} free
      {few && ': widen the scope before they arrive'}.
    </p>
  );
}
