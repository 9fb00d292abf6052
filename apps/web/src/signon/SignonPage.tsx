import { useQuery } from '@tanstack/react-query';
import type { Named, SignonRule } from '@underpass/contracts';
import type { HarReading } from '@underpass/core';
import { useState } from 'react';
import { Pick } from '../ui/Pick.js';
import { Failed, Loading } from '../ui/States.js';
import type { HarAnswer, HarTask } from './har.worker.js';
import { Recording } from './Recording.js';
import { Rules } from './Rules.js';
import { useTitle } from '../shell/useTitle.js';
import { signonQueries } from './queries.js';

const mostBytes = 50_000_000;

/** What shortcuts would save a group in a year, and recorded sign-ins that replace what is assumed. */
export function SignonPage() {
  useTitle('Sign-on time');
  const [group, setGroup] = useState<Named | null>(null);
  const savings = useQuery(signonQueries.savings(group ? { group: group.id } : {}));
  const rules = useQuery(signonQueries.rules());
  const [file, setFile] = useState<File | null>(null);
  const [reading, setReading] = useState<HarReading | null>(null);
  const [problem, setProblem] = useState<string | null>(null);
  const [busy, setBusy] = useState(false);
  const [over, setOver] = useState(false);
  const read = (chosen: File, with_: readonly SignonRule[]) => {
    setFile(chosen);
    setProblem(null);
    if (chosen.size > mostBytes) {
      setReading(null);
      setProblem(`${chosen.name} has ${Math.round(chosen.size / 1e6)} MB; at most 50 are read. Record the sign-in alone.`);
      return;
    }
    setBusy(true);
    const worker = new Worker(new URL('./har.worker.ts', import.meta.url), { type: 'module' });
    const done = (answer: HarAnswer) => {
      worker.terminate();
      setBusy(false);
      if ('reading' in answer) setReading(answer.reading);
      else {
        setReading(null);
        setProblem(`${chosen.name} ${answer.problem}.`);
      }
    };
    worker.addEventListener('message', (event: MessageEvent<HarAnswer>) => done(event.data));
    worker.addEventListener('error', () => done({ problem: 'cannot be read' }));
    worker.postMessage({ file: chosen, rules: with_ } satisfies HarTask);
  };
  /** A file may come before the rules have: then they are awaited. */
  const take = async (chosen: File) => {
    const known = rules.data ?? (await rules.refetch()).data;
    if (known) read(chosen, known.rules);
    else setProblem('The rules could not be fetched. Check your connection, then choose the file again.');
  };
  const [best] = savings.data?.savings ?? [];
  return (
    <>
      <h1>
        {savings.data && best && best.hoursAYear >= 1
          ? `${best.name}: ${Math.round(best.hoursAYear)} hours a year for ${best.people} people`
          : 'Sign-on time'}
      </h1>
      <p className="text-ink-3">
        {savings.data
          ? `${savings.data.people} people wait ${savings.data.meanS.toFixed(1)} s on average until it is usable, at ${savings.data.signInsPerDay} sign-ins on ${savings.data.workingDays} days a year.`
          : 'What each shortcut would save.'}
      </p>
      <div className="grid grid-cols-1 min-[1100px]:grid-cols-2 gap-x-12 relative">
        <section aria-labelledby="savings" className="mt-4">
          <h2 id="savings">What shortcuts would save</h2>
          <div className="mt-2 flex gap-3 items-center">
            <span>Group</span>
            <Pick kind="group" label="Group" placeholder="Everybody" value={group} onPick={setGroup} />
          </div>
          {savings.isError && <Failed what="The savings" error={savings.error} onRetry={() => void savings.refetch()} />}
          {savings.isPending && <Loading what="the savings" />}
          {savings.data && (
            <table className="w-full mt-2 border-collapse">
              <thead>
                <tr className="head">
                  <th className="text-left font-normal pb-1">Shortcut</th>
                  <th className="text-right font-normal">People</th>
                  <th className="text-right font-normal">Saves each</th>
                  <th className="text-right font-normal">Hours a year</th>
                </tr>
              </thead>
              <tbody>
                {savings.data.savings.map((each) => (
                  <tr key={each.id} className="border-b border-rule h-[26px]">
                    <td className="font-semibold">{each.name}</td>
                    <td className="text-right">{each.people}</td>
                    <td className="text-right">
                      {each.people ? each.savedS.toFixed(1) : '–'} {each.people ? <span className="text-ink-3">s</span> : ''}
                    </td>
                    <td className="text-right font-semibold">{each.people ? Math.round(each.hoursAYear) : '–'}</td>
                  </tr>
                ))}
              </tbody>
            </table>
          )}
          <p className="text-ink-3 mt-1.5">Each by itself, on top of what is in use. People counted once, on their first crossing.</p>
        </section>
        <section aria-labelledby="recorded" className="mt-4">
          <h2 id="recorded">Read a recorded sign-in</h2>
          <label
            onDragOver={(event) => {
              event.preventDefault();
              setOver(true);
            }}
            onDragLeave={() => setOver(false)}
            onDrop={(event) => {
              event.preventDefault();
              setOver(false);
              const [dropped] = event.dataTransfer.files;
              if (dropped) void take(dropped);
            }}
            className={`mt-2 block border border-dashed p-4 cursor-pointer ${over ? 'border-tile bg-tile-wash' : 'border-rule-2'} focus-within:outline focus-within:outline-2 focus-within:outline-tile`}
          >
            <input
              type="file"
              accept=".har,application/json"
              className="sr-only"
              onChange={(event) => {
                const [chosen] = event.target.files ?? [];
                if (chosen) void take(chosen);
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
          <p role="status">{busy && `Reading ${file?.name ?? ''} ·····`}</p>
          <p role="alert" className="text-brick empty:hidden">
            {problem}
          </p>
        </section>
      </div>
      {reading && file && <Recording key={`${file.name}${file.lastModified}`} reading={reading} name={file.name} />}
      {rules.data && (
        <Rules
          key={JSON.stringify(rules.data.rules)}
          rules={rules.data.rules}
          shipped={rules.data.shipped}
          version={rules.data.version}
          onTry={(next) => file && read(file, next)}
        />
      )}
    </>
  );
}
