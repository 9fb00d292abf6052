import { useQuery } from '@tanstack/react-query';
import type { TelephoneFacts } from '@underpass/contracts';
import {
  bootCauses,
  telephoneQuestions,
  telephoneState,
  type BootCause,
  type TelephoneAnswers,
  type TelephoneBefore,
} from '@underpass/core';
import { useRef, useState } from 'react';
import { Link, useParams } from 'react-router';
import { useTitle } from '../../shell/useTitle.js';
import { NotHere } from '../../ui/States.js';
import { Strip } from '../../ui/Strip.js';
import { useTyped } from '../../ui/useTyped.js';
import { Sheet } from '../Sheet.js';
import { bringupQueries } from '../queries.js';
import { causeWords } from '../words.js';
import { HomeJoining } from './HomeJoining.js';
import { Likely } from './Likely.js';
import { Told } from './Told.js';

const ways = ['start', 'wifi'] as const;

/** Text to read to a person by telephone, big, one thing at a time: what keeps their device from starting, or how it joins their Wi-Fi. */
export function TelephonePage() {
  const { endpoint = '' } = useParams();
  useTitle(`By telephone: ${endpoint}`);
  const answer = useQuery(bringupQueries.telephone(endpoint));
  if (!answer.data) return <NotHere asked={answer} awaits={`what is known of ${endpoint}`} what={endpoint} />;
  return <OnTheLine key={endpoint} facts={answer.data} />;
}

function OnTheLine({ facts }: { facts: TelephoneFacts }) {
  const { endpoint, person, location, platform } = facts;
  const [way, setWay] = useState<(typeof ways)[number]>(location.home ? 'wifi' : 'start');
  return (
    <Sheet back={{ to: `/bringup/${encodeURIComponent(location.id)}?device=${encodeURIComponent(endpoint)}`, name: endpoint }}>
      <p className="flex flex-wrap gap-x-4 gap-y-2 items-center">
        <span className="text-ink-2">
          {person ?? 'Somebody'} at {endpoint}, {location.name}
        </span>
        <Strip
          label="What is asked about"
          options={ways}
          value={way}
          onChange={setWay}
          words={{ start: 'It does not start', wifi: 'Join the Wi-Fi' }}
        />
      </p>
      {way === 'start' ? (
        <Halving facts={facts} />
      ) : (
        <>
          {location.wifi && (
            <p className="mt-3 text-ink-2">
              {location.name} has a network of its own.{' '}
              <Link className="link" to={`/bringup/${encodeURIComponent(location.id)}/joining`}>
                Show its card
              </Link>
            </p>
          )}
          <HomeJoining endpoint={endpoint} thin={platform === 'thin'} />
        </>
      )}
    </Sheet>
  );
}

/** Questions that halve what is left; answers can be taken back one by one. */
function Halving({ facts }: { facts: TelephoneFacts }) {
  const [given, setGiven] = useTyped<[question: string, answer: string | null][]>(`telephone.${facts.endpoint}`, []);
  const box = useRef<HTMLDivElement>(null);
  // what was pressed is gone with its question: whoever goes by keyboard is at the next one, not at the head of the page
  const answered = (next: typeof given) => {
    setGiven(next);
    box.current?.focus();
  };
  const known = facts.cause !== null && facts.cause in bootCauses ? (facts.cause as BootCause) : null;
  const before: TelephoneBefore = { cause: known, connection: facts.connection };
  const answers: TelephoneAnswers = Object.fromEntries(given);
  const state = telephoneState(before, answers);
  const back = given.length > 0 && (
    <p className="mt-5 flex gap-4">
      <button className="link min-h-[24px]" onClick={() => answered(given.slice(0, -1))}>
        Take the last answer back
      </button>
      <button className="link min-h-[24px]" onClick={() => answered([])}>
        Begin anew
      </button>
    </p>
  );
  return (
    <div className="mt-4 grid gap-x-10 gap-y-6 grid-cols-[minmax(0,1fr)] min-[1000px]:grid-cols-[minmax(0,1fr)_340px]">
      <div ref={box} tabIndex={-1} className="min-w-0 outline-none">
        {state.is === 'asking' ? (
          <section aria-labelledby="question">
            <h1
              id="question"
              aria-live="polite"
              className="text-[30px] leading-[37px] min-[700px]:text-[38px] min-[700px]:leading-[46px] font-[750] max-w-[24ch]"
            >
              {state.question.ask}
            </h1>
            <div
              className={`mt-5 grid gap-2 ${state.question.answers.length > 5 ? 'min-[700px]:grid-cols-2 max-w-[760px]' : 'max-w-[560px]'}`}
            >
              {state.question.answers.map(({ id, text }) => (
                <button
                  key={id}
                  className="btn justify-start h-auto min-h-[52px] w-full text-left text-[18px] leading-[24px] px-4 py-2 whitespace-normal"
                  onClick={() => answered([...given, [state.question.id, id]])}
                >
                  {text}
                </button>
              ))}
              <button className="link min-h-[32px] justify-self-start" onClick={() => answered([...given, [state.question.id, null]])}>
                They cannot say
              </button>
            </div>
          </section>
        ) : (
          <Told state={state} words={facts.words} />
        )}
        {back}
      </div>
      <div className="min-w-0">
        <Likely before={before} answers={answers} />
        {given.length > 0 && (
          <ol className="mt-4 border-t-[1.5px] border-ink" aria-label="What was answered">
            {given.map(([id, answer]) => {
              const question = telephoneQuestions.find((each) => each.id === id);
              return (
                <li key={id} className="border-b border-rule py-1">
                  <span className="text-ink-3">{question?.ask}</span>{' '}
                  <strong>{question?.answers.find((each) => each.id === answer)?.text ?? 'They cannot say'}</strong>
                </li>
              );
            })}
          </ol>
        )}
        {known && <p className="mt-3 text-ink-3">What the estate says: {causeWords(known)}. It weighs most, and may be old.</p>}
      </div>
    </div>
  );
}
