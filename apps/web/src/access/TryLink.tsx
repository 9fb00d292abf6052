import { useQuery } from '@tanstack/react-query';
import type { Named } from '@underpass/contracts';
import { useState } from 'react';
import { Dialog } from '../ui/Dialog.js';
import { Pick } from '../ui/Pick.js';
import { LinkTest } from './LinkTest.js';
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
        <LinkTest
          test={test.data}
          resource={resource}
          browser={browser}
          version={asked}
          onBrowser={(found, version) => {
            setBrowser(found);
            setVersion(version);
          }}
        />
      )}
    </Dialog>
  );
}
