import { useQuery } from '@tanstack/react-query';
import type { Named, Verdict as VerdictWord } from '@underpass/contracts';
import { useState } from 'react';
import { Link } from 'react-router';
import { Dialog } from '../ui/Dialog.js';
import { Pick } from '../ui/Pick.js';
import { LinkSaving } from './LinkSaving.js';
import { Verdict } from '../ui/Verdict.js';
import { accessQueries } from './queries.js';

/** Tries a link for a person before it is sent: the ladder, what the browser client lacks, and what is saved. */
export function TryLink({ first, onClose }: { first?: { resource: Named; person: Named | null } | undefined; onClose: () => void }) {
  const [resource, setResource] = useState<Named | null>(first?.resource ?? null);
  const [person, setPerson] = useState<Named | null>(first?.person ?? null);
  const [browser, setBrowser] = useState('chrome');
  const [version, setVersion] = useState<string | null>(null);
  const browsers = useQuery(accessQueries.browsers());
  const current = browsers.data?.find(({ id }) => id === browser)?.current ?? '';
  const asked = version ?? current;
  const versioned = /^\d+(\.\d+)*$/.test(asked);
  const ready = resource !== null && person !== null && versioned;
  const test = useQuery({
    ...accessQueries.linkTest({ resource: resource?.id, person: person?.id, browser, version: asked }),
    enabled: ready,
  });
  return (
    <Dialog
      open
      onOpenChange={(open) => !open && onClose()}
      title="Try a link on paper"
      description="The ladder is walked for this person as the link would lead them, in the browser client. Nothing is opened."
      wide
    >
      <div className="grid grid-cols-[76px_1fr] min-[700px]:grid-cols-[76px_1fr_76px_1fr] gap-x-4 gap-y-3 items-center">
        <span>Resource</span>
        <Pick kind="resource" label="Resource" value={resource} onPick={setResource} />
        <span>Person</span>
        <Pick kind="person" label="Person" value={person} onPick={setPerson} />
        <label htmlFor="browser">Browser</label>
        <select
          id="browser"
          className="field max-w-[280px]"
          value={browser}
          onChange={(event) => {
            setBrowser(event.target.value);
            setVersion(null);
          }}
        >
          {browsers.data?.map(({ id, name }) => (
            <option key={id} value={id}>
              {name}
            </option>
          ))}
        </select>
        <label htmlFor="version">Version</label>
        <input
          id="version"
          className="field w-[90px]"
          inputMode="decimal"
          value={asked}
          onChange={(event) => setVersion(event.target.value)}
        />
      </div>
      {(resource === null || person === null) && <p className="text-ink-3 mt-4">Choose the resource and the person.</p>}
      {browsers.data && !versioned && (
        <p role="alert" className="text-brick mt-4">
          The version must be a number such as {current || '128'}.
        </p>
      )}
      {test.isError && (
        <p role="alert" className="text-brick mt-4">
          {test.error.message}
        </p>
      )}
      {test.data && (
        <div aria-live="polite">
          <p className="mt-5 text-[15px] leading-5">
            <Verdict verdict={test.data.verdict as VerdictWord} className="mr-2" />
            {test.data.sentence}
            {test.data.crossing && (
              <Link className="link ml-2" to={`/crossings/${encodeURIComponent(test.data.crossing)}?q=open`}>
                Open the crossing
              </Link>
            )}
          </p>
          <div className="grid grid-cols-1 min-[700px]:grid-cols-2 gap-x-10 mt-3">
            <section aria-label="Ladder">
              <h3 className="head font-normal pb-1">Steps until it opens</h3>
              <ol>
                {test.data.ladder.map((step) => (
                  <li
                    key={step.name}
                    className={`border-b border-rule py-0.5 flex gap-2 ${step.state === 'broken' ? 'text-brick font-bold' : step.state === 'not reached' ? 'text-ink-3' : ''}`}
                  >
                    <span className="flex-1">{step.name}</span>
                    {step.state === 'assumed' ? 'taken to pass' : step.state}
                  </li>
                ))}
              </ol>
            </section>
            <section aria-label="Lost in the browser">
              <h3 className="head font-normal pb-1">
                Lost in {test.data.browserName} {asked}, compared with the native client
              </h3>
              <ul>
                {test.data.lost.map((feature) => (
                  <li key={feature.feature} className="border-b border-rule py-0.5 flex gap-2">
                    <span className="flex-1">{feature.feature}</span>
                    <span className="text-ink-2">
                      {feature.support === 'partly' ? 'only partly' : feature.from ? `from version ${feature.from}` : 'not at all'}
                    </span>
                  </li>
                ))}
                {test.data.lost.length === 0 && (
                  <li className="py-0.5 text-ink-2">
                    Nothing: {test.data.features.join(', ')} are all there, once the person allows them.
                  </li>
                )}
              </ul>
              <p className="text-ink-3 mt-1">From {test.data.source}</p>
              {test.data.measured && (test.data.measured.browser !== browser || test.data.measured.version !== asked) && (
                <button
                  className="link mt-1"
                  onClick={() => {
                    setBrowser(test.data.measured?.browser ?? browser);
                    setVersion(test.data.measured?.version ?? null);
                  }}
                >
                  A field check found {test.data.measured.name} {test.data.measured.version} there: use that
                </button>
              )}
            </section>
          </div>
          <p className="mt-3 text-[14px] leading-[18px]">
            <b>{test.data.savedS < 0.05 ? 'Saves nothing' : `Saves ${test.data.savedS.toFixed(1)} s an opening`}</b>:{' '}
            {test.data.beforeS.toFixed(1)} s through the list, {test.data.afterS.toFixed(1)} s through the link.
          </p>
          {resource && (
            <p className="text-ink-2">
              For all who have it, in the client they use now: <LinkSaving resource={resource} />
            </p>
          )}
        </div>
      )}
    </Dialog>
  );
}
