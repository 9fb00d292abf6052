import { useQuery } from '@tanstack/react-query';
import type { TransferAnswer } from '@underpass/contracts';
import { useState } from 'react';
import { Link, useParams } from 'react-router';
import { useTitle } from '../shell/useTitle.js';
import { Empty, NotHere } from '../ui/States.js';
import { momentIn } from '../ui/times.js';
import { Sheet, toPlace } from './Sheet.js';
import { bringupQueries } from './queries.js';
import { TransferStrip } from './TransferStrip.js';
import { lasting } from './words.js';

const means = {
  'all at once': 'Every device fetches it at its next start, and nobody holds it back.',
  'one after the other': 'Each waits for the one before, and stays under the share above.',
  'once, then from a copy at the place': 'The line carries it once; a device that is always on hands it to the others.',
} as const;

/** How what the devices of a place will install comes to them over its line. */
export function TransferPage() {
  const { place = '' } = useParams();
  const [asked, setAsked] = useState({ begin: '', working: '10', outside: '90' });
  const answer = useQuery(bringupQueries.transfer(place, asked));
  const named = useQuery(bringupQueries.place(place));
  const name = named.data?.name ?? place;
  useTitle(`Firmware to ${name}`);
  if (!answer.data) return <NotHere asked={answer} awaits="what its devices will install" what="This place" />;
  const { devices, files, lineMbps, timeZone, beginAt, ways } = answer.data;
  return (
    <Sheet back={toPlace(place, name)}>
      <h1>
        {devices === 0
          ? `No device of ${name} installs anything at its next start`
          : `${devices === 1 ? 'One device' : `${devices} devices`} of ${name} will install something`}
      </h1>
      {files.map(({ id, version, sizeMB, devices: n, down }) => (
        <p key={id} className={down ? 'text-amber' : 'text-ink-2'}>
          {version}, {sizeMB} MB, on {n}
          {down > 0 && `; ${down === n ? 'each of them is' : `${down} of them are`} put back to it from something newer`}
        </p>
      ))}
      {devices > 0 && lineMbps === null && (
        <Empty
          action={
            <Link className="btn" to={`/estate/location/${encodeURIComponent(place)}`}>
              Open {name}
            </Link>
          }
        >
          The rate of its line is not known. Say it, and the times follow.
        </Empty>
      )}
      {ways.length > 0 && <Asked asked={asked} onAsk={setAsked} />}
      {lineMbps !== null &&
        ways.map((way) => (
          <OneWay key={way.way} way={way} lineMbps={lineMbps} timeZone={timeZone} beginAt={beginAt} working={asked.working} />
        ))}
    </Sheet>
  );
}

type Asking = { begin: string; working: string; outside: string };

const shares = [
  ['working', 'in working hours'],
  ['outside', 'outside of them'],
] as const;
const isShare = (text: string): boolean => text.trim() !== '' && Number(text) >= 0 && Number(text) <= 100;

function Asked({ asked, onAsk }: { asked: Asking; onAsk: (asked: Asking) => void }) {
  const [typed, setTyped] = useState(asked);
  const type = (key: 'working' | 'outside', text: string) => {
    setTyped({ ...typed, [key]: text });
    if (isShare(text)) onAsk({ ...asked, [key]: String(Number(text)) });
  };
  const wrong = shares.find(([key]) => !isShare(typed[key]));
  return (
    <fieldset className="mt-4 flex flex-wrap gap-x-6 gap-y-2">
      <legend className="text-ink-3 mb-1">How much of the line it may take</legend>
      {shares.map(([key, label]) => (
        <label key={key} className="flex items-center gap-2">
          {label}
          <input
            className="field w-[70px]"
            type="text"
            inputMode="decimal"
            aria-invalid={!isShare(typed[key])}
            aria-describedby="share-fault"
            value={typed[key]}
            onChange={(event) => type(key, event.target.value)}
          />
          %
        </label>
      ))}
      <p id="share-fault" role="status" className="text-brick basis-full">
        {wrong && `Type 0 to 100 for the part ${wrong[1]}; below it stands with ${asked[wrong[0]]} %.`}
      </p>
    </fieldset>
  );
}

function OneWay({
  way,
  lineMbps,
  timeZone,
  beginAt,
  working,
}: {
  way: TransferAnswer['ways'][number];
  lineMbps: number;
  timeZone: string;
  beginAt: string;
  working: string;
}) {
  const end = way.endS === null ? null : new Date(Date.parse(beginAt) + way.endS * 1000).toISOString();
  return (
    <section className="mt-6" aria-label={way.way}>
      <h2 className="first-letter:uppercase">{way.way}</h2>
      <p className="text-ink-2">{means[way.way]}</p>
      <p className="mt-1">
        {way.endS === null || end === null ? (
          <span className="text-brick">It does not end within sixty days.</span>
        ) : (
          <>
            Done after <strong>{lasting(way.endS)}</strong>, {momentIn(end, timeZone)} there
            {way.meanS !== null && way.meanS < way.endS * 0.99 && `; on average after ${lasting(way.meanS)}`}.
          </>
        )}
        {way.workingHours && <span className="text-amber">{` It takes more than ${working} % of the line while people work.`}</span>}
      </p>
      {/* what ends within the hour has no course to show */}
      {way.hours.length > 1 && <TransferStrip way={way} lineMbps={lineMbps} timeZone={timeZone} />}
    </section>
  );
}
