import type { Named } from '@underpass/contracts';
import { secondsOf, type HarReading } from '@underpass/core';
import { useState } from 'react';
import { call } from '../api/client.js';
import { useCanEdit } from '../api/session.js';
import { Timeline } from '../drawing/Timeline.js';
import { useAction } from '../ui/useAction.js';
import { Pick } from '../ui/Pick.js';

const ms = (value: number) => (value >= 1000 ? `${(value / 1000).toFixed(1)} s` : `${Math.round(value)} ms`);

/** A recorded sign-in in steps: what decided, what failed, and where it is kept. */
export function Recording({ reading, name }: { reading: HarReading; name: string }) {
  const { fault, refuse, run } = useAction();
  const canEdit = useCanEdit();
  const [location, setLocation] = useState<Named | null>(null);
  const [endpoint, setEndpoint] = useState<Named | null>(null);
  const [person, setPerson] = useState<Named | null>(null);
  const slowest = reading.steps.find((step) => step.name === reading.slowest);
  const keep = async () => {
    if (!location) return refuse('Choose the location it was recorded at.');
    await run(async () => {
      await call('signon/recordings', 'POST', {
        location: location.id,
        ...(endpoint ? { endpoint: endpoint.id } : {}),
        ...(person ? { person: person.id } : {}),
        startedAt: reading.startedAt,
        steps: secondsOf(reading),
      });
      return { text: `Kept for ${location.name}: ${reading.steps.length} measured steps replace what was assumed.` };
    });
  };
  return (
    <section aria-labelledby="recording" className="mt-6">
      <h2 id="recording">
        {slowest
          ? `${slowest.name.charAt(0).toUpperCase()}${slowest.name.slice(1)} is the slowest step: ${ms(slowest.durationMs)} of ${ms(reading.totalMs)}`
          : 'No rule fits a request of this recording'}
        <span className="font-normal text-ink-3 text-[13px] ml-2">
          {name}, {reading.requests} requests
        </span>
      </h2>
      {reading.steps.length > 0 && (
        <div className="mt-2 border-t-[1.5px] border-ink pt-2">
          <Timeline
            rows={reading.steps.map((step) => ({
              name: step.name,
              startS: step.startMs / 1000,
              seconds: step.durationMs / 1000,
              source: 'measured',
              byPerson: false,
              critical: reading.criticalPath.includes(step.name),
              personS: step.personMs / 1000,
            }))}
            totalS={reading.totalMs / 1000}
            label="Steps of the recorded sign-in"
          />
        </div>
      )}
      <RecordingFigures reading={reading} />
      {canEdit && reading.steps.length > 0 && (
        <form
          className="mt-3 flex flex-wrap gap-x-4 gap-y-2 items-center"
          onSubmit={(event) => {
            event.preventDefault();
            void keep();
          }}
        >
          <span>Recorded at</span>
          <span className="w-[200px]">
            <Pick kind="location" label="Location" placeholder="Location" value={location} onPick={setLocation} />
          </span>
          <span className="w-[160px]">
            <Pick kind="endpoint" label="Endpoint" placeholder="Endpoint, if known" value={endpoint} onPick={setEndpoint} />
          </span>
          <span className="w-[180px]">
            <Pick kind="person" label="Person" placeholder="Person, if known" value={person} onPick={setPerson} />
          </span>
          <button className="btn btn-primary">Keep as measured</button>
          <p role="alert" className="text-brick w-full empty:hidden">
            {fault}
          </p>
        </form>
      )}
    </section>
  );
}

/** What else the recording tells. */
function RecordingFigures({ reading }: { reading: HarReading }) {
  return (
    <dl className="grid grid-cols-[auto_1fr] min-[900px]:grid-cols-[auto_1fr_auto_1fr] gap-x-4 gap-y-1 mt-2">
      <Row name="Decided by">{reading.criticalPath.join(', ') || 'nothing'}</Row>
      <Row name="Name lookup, connecting, TLS">
        {ms(reading.dnsMs)}, {ms(reading.connectMs)}, {ms(reading.tlsMs)}
      </Row>
      <Row name="Redirects">{reading.redirects}</Row>
      <Row name="Over an open connection">
        {reading.reused} of {reading.requests}
      </Row>
      <Row name="Failed">
        {reading.failures.length === 0 ? '0' : reading.failures.map((each) => `${each.host}${each.path} (${each.status})`).join('; ')}
      </Row>
      <Row name="Nothing under way">
        {reading.gaps.length === 0
          ? 'never longer than 1 s'
          : reading.gaps.map((gap) => `${ms(gap.durationMs)}${gap.before ? ` before ${gap.before}` : ''}`).join(', ')}
      </Row>
      {reading.clockSteps > 0 && (
        <Row name="Clock">set back {reading.clockSteps} times while recording: times across that are not to be trusted</Row>
      )}
      <Row name="Fit no rule">
        {reading.unassigned.length === 0
          ? '0'
          : `${reading.unassigned.length}: ${reading.unassigned
              .slice(0, 4)
              .map((each) => `${each.host}${each.path}`)
              .join(', ')}${reading.unassigned.length > 4 ? ' and more' : ''}`}
      </Row>
    </dl>
  );
}

const Row = ({ name, children }: { name: string; children: React.ReactNode }) => (
  <>
    <dt className="text-ink-3">{name}</dt>
    <dd className="min-w-0 [overflow-wrap:anywhere]">{children}</dd>
  </>
);
