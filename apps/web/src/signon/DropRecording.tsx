import { useDrop } from '../ui/useDrop.js';

/** Where a recorded sign-in is dropped or chosen, with what happens to it. */
export function DropRecording({ busy, problem, onTake }: { busy: string | null; problem: string | null; onTake: (file: File) => void }) {
  const { over, listens } = useDrop(([dropped]) => dropped && onTake(dropped));
  return (
    <section aria-labelledby="recorded" className="mt-4">
      <h2 id="recorded">Read a recorded sign-in</h2>
      <label
        {...listens}
        className={`mt-2 block border border-dashed p-4 cursor-pointer ${over ? 'border-tile bg-tile-wash' : 'border-rule-2'} focus-within:outline focus-within:outline-2 focus-within:outline-tile`}
      >
        <input
          type="file"
          accept=".har,application/json"
          className="sr-only"
          onChange={(event) => {
            const [chosen] = event.target.files ?? [];
            if (chosen) onTake(chosen);
            event.target.value = '';
          }}
        />
        <b>Drop a HAR file here, or choose one</b>
        <span className="block text-ink-2">
          Recorded in the person’s browser from opening the portal to the first picture. Up to 50 MB.
        </span>
      </label>
      <p className="text-ink-2 mt-1.5">
        The file is read in this browser and never sent. Cookies, authorization headers, form contents and queries are left out before
        anything is kept: only steps and seconds are.
      </p>
      <p role="status">{busy && `Reading ${busy} ·····`}</p>
      <p role="alert" className="text-brick empty:hidden">
        {problem}
      </p>
    </section>
  );
}
