import { useQuery } from '@tanstack/react-query';
import type { CardImage, CardPlan } from '@underpass/contracts';
import {
  checkFirstBoot,
  countriesOf,
  firstBootModes,
  firstBootText,
  layoutsOf,
  matchImage,
  passwordRules,
  readFirstBoot,
  type FirstBoot,
  type ImageMatch,
} from '@underpass/core';
import { useState } from 'react';
import { Labelled } from '../../ui/form/Labelled.js';
import { Failed, Loading } from '../../ui/States.js';
import { Strip } from '../../ui/Strip.js';
import { useTyped } from '../../ui/useTyped.js';
import { bringupQueries } from '../queries.js';
import { megabytes } from '../words.js';

/** A card for one device: which image fits, whether the card is large enough, and the answers of its first start. */
export function CardPlanning({ device }: { device: string }) {
  const answer = useQuery(bringupQueries.card(device));
  if (answer.isPending) return <Loading what={`what a card for ${device} needs`} />;
  if (!answer.data) return <Failed what={`A card for ${device}`} error={answer.error} onRetry={() => void answer.refetch()} />;
  return <Planned plan={answer.data} />;
}

const partWords = { device: 'it is for a', processor: 'it is for', model: 'it is for the model', start: 'it starts by' } as const;
const rank = { fits: 0, 'not known': 1, 'does not fit': 2 } as const;
const why = ({ parts }: ImageMatch): string =>
  parts
    .filter(({ fit }) => fit !== 'fits')
    .map(({ part, wanted, has }) =>
      has === null ? `${partWords[part]} ${wanted}, and of this device nobody said` : `${partWords[part]} ${wanted}, this one has ${has}`,
    )
    .join('; ');

function Planned({ plan: { endpoint, location, images } }: { plan: CardPlan }) {
  const matched = images
    .map((image) => ({ image, match: matchImage(image, endpoint) }))
    .sort((a, b) => rank[a.match.fit] - rank[b.match.fit] || (a.image.id < b.image.id ? -1 : 1));
  const [picked, setPicked] = useState<string | null>(null);
  const chosen = matched.find(({ image }) => image.id === picked) ?? matched[0];
  return (
    <div className="mt-3 grid gap-x-10 grid-cols-[minmax(0,1fr)] min-[1000px]:grid-cols-2">
      <div className="min-w-0">
        <p className="text-ink-2">
          {endpoint.deviceClass}, {endpoint.processor}, {endpoint.model ?? 'model not known'}, {endpoint.bootMode ?? 'start not known'}, at{' '}
          {location.name}.
        </p>
        <fieldset className="mt-2">
          <legend className="sr-only">Image</legend>
          {matched.map(({ image, match }) => (
            <label key={image.id} className="flex gap-3 items-baseline border-t border-rule py-1.5 cursor-pointer">
              <input type="radio" name="image" checked={image.id === chosen?.image.id} onChange={() => setPicked(image.id)} />
              <span className="min-w-0">
                <span className="mono">{image.id}</span>{' '}
                <strong className={match.fit === 'fits' ? 'text-tile' : match.fit === 'not known' ? 'text-ink-3' : 'text-brick'}>
                  {match.fit}
                </strong>
                {match.fit !== 'fits' && <span className="block text-ink-2">{why(match)}.</span>}
              </span>
            </label>
          ))}
        </fieldset>
        {chosen && <CardSize key={chosen.image.id} image={chosen.image} />}
      </div>
      <Answers device={endpoint.id} deviceClass={endpoint.deviceClass} place={location} />
    </div>
  );
}

/** The card itself: by its size and label, never by a letter alone. */
function CardSize({ image }: { image: CardImage }) {
  const [size, setSize] = useState('');
  const [label, setLabel] = useState('');
  const gigabytes = Number(size.replace(',', '.'));
  const read = size.trim() === '' ? null : gigabytes > 0 && gigabytes <= 2000 ? gigabytes : 'wrong';
  const small = typeof read === 'number' && read * 1000 < image.sizeMB;
  const named = [typeof read === 'number' ? `--size ${read}` : '', /^[\w.-]+$/.test(label) ? `--label ${label}` : '']
    .filter(Boolean)
    .join(' ');
  return (
    <div className="mt-3 border-t border-rule pt-3 grid grid-cols-[110px_minmax(0,1fr)] gap-y-2 items-baseline">
      <Labelled
        id="card-size"
        label="Card, GB"
        className="field w-[92px]"
        inputMode="decimal"
        value={size}
        onChange={({ target }) => setSize(target.value)}
        fault={read === 'wrong' ? 'Type its size, such as 16.' : small ? `Too small: the image has ${megabytes(image.sizeMB)}.` : undefined}
        hint={`The image has ${megabytes(image.sizeMB)}.`}
      />
      <Labelled
        id="card-label"
        label="Called"
        className="field w-[180px]"
        value={label}
        maxLength={40}
        onChange={({ target }) => setLabel(target.value)}
        hint="Its label, as the system shows it."
      />
      <div className="col-span-2">
        <p className="text-ink-2">
          {named === ''
            ? 'Say its size or label: a letter or a path alone is another card’s after the next start.'
            : 'On the machine with the card, this writes it, refuses a disk of the system, and reads it back:'}
        </p>
        {named !== '' && !small && (
          <pre className="mono text-[12.5px] whitespace-pre-wrap [overflow-wrap:anywhere] mt-1">
            {`npm run -s underpass -- card ${image.id}.img /dev/… --write ${named}${image.sha256 ? ` --sha256 ${image.sha256.toLowerCase()}` : ''}`}
          </pre>
        )}
      </div>
    </div>
  );
}

/** The file of answers beside the image, held against the place. */
function Answers({ device, deviceClass, place }: { device: string; deviceClass: string; place: CardPlan['location'] }) {
  const [country = ''] = countriesOf(place.timeZone);
  const first: FirstBoot = {
    zone: place.timeZone,
    locale: country === '' ? 'en' : `en-${country}`,
    keyboard: layoutsOf(country)[0] ?? 'us',
    mode: deviceClass === 'kiosk' ? 'kiosk' : 'client',
    password: 'per device',
  };
  const [typed, setTyped] = useTyped<FirstBoot>(`first-boot.${device}`, first);
  const [now] = useState(() => Date.now());
  const [fault, setFault] = useState<string | null>(null);
  const problems = checkFirstBoot(typed, place, { deviceClass }, now);
  const of = (key: string) => problems.find((each) => each.key === key);
  const set = (change: Partial<FirstBoot>) => setTyped({ ...typed, ...change });
  const text = firstBootText(typed);
  const take = async (file: File) => {
    const read = readFirstBoot(await file.slice(0, 10_000).text());
    setFault(read.ok ? null : `${file.name}, ${read.fault.place}: ${read.fault.problem}; ${read.fault.remedy}.`);
    if (read.ok) setTyped(read.value);
  };
  const fields = [
    ['zone', 'Zone'],
    ['locale', 'Locale'],
    ['keyboard', 'Keyboard'],
  ] as const;
  return (
    <section aria-labelledby="answers" className="min-w-0 max-[1000px]:mt-6">
      <h3 id="answers" className="font-bold">
        Answers of its first start
      </h3>
      <p className="text-ink-2">They stand in a file beside the image, so that nobody types them. The place is in {place.timeZone}.</p>
      <div className="mt-2 grid grid-cols-[92px_minmax(0,1fr)] gap-y-2 items-baseline">
        {fields.map(([key, label]) => (
          <Labelled
            key={key}
            id={`answer-${key}`}
            label={label}
            className="field w-[220px] max-w-full"
            maxLength={60}
            value={typed[key]}
            onChange={({ target }) => set({ [key]: target.value.trim() })}
            hint={of(key) && `${of(key)?.sure ? '' : 'Perhaps: '}${of(key)?.text}. Right would be ${of(key)?.right}.`}
          />
        ))}
        <span>Mode</span>
        <div>
          <Strip label="Mode" options={firstBootModes} value={typed.mode} onChange={(mode) => set({ mode })} />
          {of('mode') && <p className="text-amber">{`${of('mode')?.text}. Right would be ${of('mode')?.right}.`}</p>}
        </div>
        <span>Password</span>
        <div>
          <Strip
            label="Password"
            options={passwordRules.filter((rule) => rule !== 'hash' || typed.hash !== undefined)}
            value={typed.password}
            onChange={(password) => set({ password })}
            words={{ ask: 'asked for', 'per device': 'made for each device', hash: 'as its hash says' }}
          />
        </div>
      </div>
      <p role="status" className={`mt-2 ${problems.length ? 'text-amber font-semibold' : 'text-ink-2'}`}>
        {problems.length === 0
          ? 'All of them agree with the place.'
          : problems.length === 1
            ? 'One does not agree with the place.'
            : `${problems.length} do not agree with the place.`}
      </p>
      <pre className="mono text-[12.5px] mt-2 border-t border-rule pt-2">{text}</pre>
      <p className="mt-2 flex flex-wrap gap-2">
        <a
          className="btn btn-small"
          download={`first-boot-${device}.ini`}
          href={`data:text/plain;charset=utf-8,${encodeURIComponent(text)}`}
        >
          Take the file
        </a>
        <label className="btn btn-small focus-within:outline-2">
          Check a file
          <input
            type="file"
            className="sr-only"
            aria-label="File of answers"
            onChange={({ target }) => {
              const [file] = target.files ?? [];
              if (file) void take(file);
              target.value = '';
            }}
          />
        </label>
      </p>
      {fault && (
        <p role="alert" className="text-brick mt-2">
          {fault}
        </p>
      )}
    </section>
  );
}
