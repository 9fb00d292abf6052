import { zodResolver } from '@hookform/resolvers/zod';
import { RecordingForm, type Named } from '@underpass/contracts';
import { secondsOf, type HarReading } from '@underpass/core';
import { call } from '../api/client.js';
import { useCanEdit } from '../api/session.js';
import { Timeline } from '../drawing/Timeline.js';
import { PickRow } from '../ui/form/Controlled.js';
import { useSent } from '../ui/form/useSent.js';
import { fixed } from '../ui/figures.js';

const ms = (value: number) => (value >= 1000 ? `${fixed(value / 1000, 1)} s` : `${Math.round(value)} ms`);

/** A recorded sign-in in steps: what decided, what failed, and where it is kept. */
export function Recording({ reading, name }: { reading: HarReading; name: string }) {
  const canEdit = useCanEdit();
  const slowest = reading.steps.find((step) => step.name === reading.slowest);
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
      {canEdit && reading.steps.length > 0 && <Keep reading={reading} />}
    </section>
  );
}

const nowhere = { location: null as Named | null, endpoint: null as Named | null, person: null as Named | null };

/** Where it was recorded, and keeping it. */
function Keep({ reading }: { reading: HarReading }) {
  const form = useSent({ defaultValues: nowhere, resolver: zodResolver(RecordingForm) }, async (at): Promise<{ text: string }> => {
    const { location } = form.getValues();
    await call('signon/recordings', 'POST', { ...at, startedAt: reading.startedAt, steps: secondsOf(reading) });
    return { text: `Kept for ${location?.name}: ${reading.steps.length} measured steps replace what was assumed.` };
  });
  const { control } = form;
  return (
    <form
      className="mt-3 grid grid-cols-1 min-[640px]:grid-cols-[110px_1fr] gap-y-2 items-baseline"
      noValidate
      onSubmit={(event) => void form.send()(event)}
    >
      <PickRow control={control} name="location" label="Recorded at" saidAs="Location" kind="location" placeholder="Location" />
      <PickRow control={control} name="endpoint" label="Endpoint" kind="endpoint" placeholder="Endpoint, if known" />
      <PickRow control={control} name="person" label="Person" kind="person" placeholder="Person, if known" />
      <p role="alert" className="min-[640px]:col-start-2 text-brick empty:hidden">
        {form.fault}
      </p>
      <div className="min-[640px]:col-start-2">
        <button className="btn btn-primary" disabled={form.busy}>
          Keep as measured
        </button>
      </div>
    </form>
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
