import { useState } from 'react';
import { useWatch } from 'react-hook-form';
import { useNavigate } from 'react-router';
import { call, download } from '../api/client.js';
import { Dialog } from '../ui/Dialog.js';
import { useSent } from '../ui/form/useSent.js';
import { useNotice } from '../ui/Notice.js';

/** For administrators: everything that is kept about one person, as a file, and erased for good. */
export function PersonData({ id, name }: { id: string; name: string }) {
  const [asking, setAsking] = useState(false);
  const notice = useNotice();
  const path = `people/${encodeURIComponent(id)}/data`;
  return (
    <section aria-labelledby="kept" className="mt-6 border-t border-rule pt-3">
      <h2 id="kept">What is kept about them</h2>
      <p className="text-ink-2 mt-1">Measurements, sign-ins, links, drafts, verdicts and changes.</p>
      <div className="flex gap-3 mt-2">
        <button
          className="btn btn-small"
          onClick={() => void download(path, `${id}.json`).catch((error: Error) => notice({ text: error.message }))}
        >
          Show all of it as a file
        </button>
        <button className="btn btn-small" onClick={() => setAsking(true)}>
          Erase this person
        </button>
      </div>
      {asking && <Erase id={id} name={name} path={path} onClose={() => setAsking(false)} />}
    </section>
  );
}

/** Asks for the id before all is erased. */
function Erase({ id, name, path, onClose }: { id: string; name: string; path: string; onClose: () => void }) {
  const navigate = useNavigate();
  const form = useSent({ defaultValues: { typed: '' } }, async () => {
    await call(path, 'DELETE');
    void navigate('/estate/person');
    return { text: `${id} is erased. What was worked out for them stays as counts.` };
  });
  const typed = useWatch({ control: form.control, name: 'typed' });
  return (
    <Dialog
      open
      onOpenChange={(open) => !open && onClose()}
      title={`Erase ${name}`}
      description="They and everything kept about them are taken out, also of the history of changes. This cannot be taken back. Backups made before still hold them."
    >
      <form onSubmit={(event) => void form.send()(event)}>
        <label htmlFor="erase-id">
          Type <b className="mono">{id}</b> to go on
        </label>
        <input id="erase-id" className="field mono block mt-1 w-[200px]" autoComplete="off" autoFocus {...form.register('typed')} />
        <p role="alert" className="text-brick mt-2 empty:hidden">
          {form.fault}
        </p>
        <div className="flex gap-3 mt-3">
          <button className="btn" disabled={typed.trim() !== id || form.busy}>
            Erase {name}
          </button>
          <button type="button" className="btn" onClick={onClose}>
            Leave it
          </button>
        </div>
      </form>
    </Dialog>
  );
}
