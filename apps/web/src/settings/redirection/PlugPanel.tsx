import { useQuery } from '@tanstack/react-query';
import type { Change, Peripheral, PlugRequest } from '@underpass/contracts';
import { useState } from 'react';
import { Failed, Loading } from '../../ui/States.js';
import { settingsQueries } from '../queries.js';
import { deviceText } from './words.js';

type Answers = PlugRequest['answers'];
const stepWords: Record<string, string> = {
  seen: 'Seen',
  power: 'Power',
  client: 'Client',
  rule: 'Rule',
  when: 'When',
  setting: 'Settings',
  taken: 'Taken already',
  gateway: 'Gateway',
  driver: 'Driver',
  way: 'The way',
};

/** A device is plugged in on paper: step by step what happens, what the person would see, and why it does not appear. */
export function PlugPanel({
  crossing,
  devices,
  change,
  onDecided,
  split,
}: {
  crossing: string;
  devices: readonly Peripheral[];
  change: Change | null;
  /** Tells the page which device is looked at. */
  onDecided: (device: Peripheral | null) => void;
  /** Offers to split what a rule keeps out. */
  split: ((device: Peripheral, rule: string | null) => React.ReactNode) | null;
}) {
  const [chosen, setChosen] = useState('');
  const [answers, setAnswers] = useState<Answers>({});
  const device = devices.find(({ id }) => id === chosen) ?? null;
  const plugged = useQuery(settingsQueries.plug(crossing, device, answers, change));
  return (
    <section aria-labelledby="plug" className="mt-5">
      <h2 id="plug">
        Plug it in <small className="font-normal text-[13px] text-ink-3 ml-2">on paper</small>
      </h2>
      <p className="flex gap-2 items-center mt-1">
        <label className="text-ink-3" htmlFor="plug-device">
          Device
        </label>
        <select
          id="plug-device"
          className="field max-w-[320px]"
          value={chosen}
          onChange={({ target }) => {
            setChosen(target.value);
            setAnswers({});
            onDecided(devices.find(({ id }) => id === target.value) ?? null);
          }}
        >
          <option value="">choose one</option>
          {devices.map((each) => (
            <option key={each.id} value={each.id}>
              {deviceText(each)}
            </option>
          ))}
        </select>
      </p>
      {plugged.isError && <Failed what="What happens" error={plugged.error} onRetry={() => void plugged.refetch()} />}
      {device && plugged.isPending && <Loading what="what happens" />}
      {device && plugged.data && (
        <div role="status">
          <ol className="mt-2">
            {plugged.data.steps.map(({ name, state, text }, i) =>
              state === 'not reached' ? null : (
                <li key={name} className="border-b border-rule py-1 grid grid-cols-[20px_minmax(0,1fr)]">
                  <span className="text-ink-3">{i + 1}</span>
                  <span>
                    <b
                      className={`font-semibold ${state === 'stops' ? 'text-brick' : state === 'not known' || state === 'waits' ? 'text-amber' : ''}`}
                    >
                      {stepWords[name]}
                      {state === 'stops' ? ', stops here' : state === 'not known' ? ', not known' : state === 'waits' ? ', waits' : ''}
                    </b>{' '}
                    {text}
                  </span>
                </li>
              ),
            )}
          </ol>
          {plugged.data.steps.some(({ state }) => state === 'not reached') && (
            <p className="text-ink-3 py-1">What comes after is not reached.</p>
          )}
          <p className="text-[15px] leading-5 py-2">{plugged.data.sees}.</p>
          {plugged.data.nearly.length > 0 && (
            <p className="text-ink-2">
              It would be decided otherwise if{' '}
              {plugged.data.nearly
                .slice(0, 3)
                .map(({ rule, field }) => `${rule} fitted in its ${field}`)
                .join(', or ')}
              .
            </p>
          )}
          {plugged.data.ask && (
            <div className="border-l-[5.5px] border-bore pl-3 my-2">
              <p className="font-semibold">{plugged.data.ask.question}</p>
              <p className="flex gap-2 mt-1">
                {([true, false] as const).map((yes) => (
                  <button
                    key={String(yes)}
                    className="btn btn-small"
                    onClick={() => plugged.data.ask && setAnswers({ ...answers, [plugged.data.ask.step]: yes })}
                  >
                    {yes ? 'Yes' : 'No'}
                  </button>
                ))}
                {Object.keys(answers).length > 0 && (
                  <button className="btn btn-small btn-quiet" onClick={() => setAnswers({})}>
                    Begin again
                  </button>
                )}
              </p>
            </div>
          )}
          {!plugged.data.ask && Object.keys(answers).length > 0 && (
            <p>
              <button className="btn btn-small" onClick={() => setAnswers({})}>
                Begin again
              </button>
            </p>
          )}
          {split &&
            plugged.data.works === false &&
            plugged.data.steps.find(({ state }) => state === 'stops')?.name === 'rule' &&
            split(device, plugged.data.rule?.id ?? null)}
        </div>
      )}
    </section>
  );
}
