import { useQuery } from '@tanstack/react-query';
import type { Bay, Verdict as VerdictWord } from '@underpass/contracts';
import { clock, type Settling } from '@underpass/core';
import { lazy, Suspense } from 'react';
import { Link } from 'react-router';
import { query } from '../api/client.js';
import { WaysIn } from '../intake/WaysIn.js';
import { barOrder, PeopleBar } from '../ui/PeopleBar.js';
import { Later } from '../ui/Later.js';
import { Failed, Loading } from '../ui/States.js';
import { weekdayMoment } from '../ui/times.js';
import { verdictInk, verdictWords, VerdictShape } from '../ui/Verdict.js';
import { useTitle } from '../shell/useTitle.js';
import { useNarrow } from '../ui/useUnder.js';
import { BoardMatrix } from './BoardMatrix.js';
import { BoardPlaces } from './BoardPlaces.js';
import { BoardSection } from './BoardSection.js';
import { LeadingFindings } from './LeadingFindings.js';
import { boardQuery } from './queries.js';
import { useAddress } from '../ui/useAddress.js';

// not among what the Board waits for
const FirstSteps = lazy(async () => ({ default: (await import('../intake/FirstSteps.js')).FirstSteps }));
const ViewsMenu = lazy(async () => ({ default: (await import('../views/ViewsMenu.js')).ViewsMenu }));

/** Where does it hurt now? One sentence, the way with its bays, places × resources, and what leads. */
export function BoardPage() {
  const answer = useQuery(boardQuery());
  const { search, set: change } = useAddress();
  const hand = useNarrow();
  useTitle('Board');
  if (answer.isPending)
    return (
      <div className="px-6">
        <Loading what="the Board" />
      </div>
    );
  if (!answer.data)
    return (
      <div className="px-6">
        <Failed page what="The Board" error={answer.error} onRetry={() => void answer.refetch()} />
      </div>
    );
  const { board, leading, at } = answer.data;
  const { people } = board;
  const all = barOrder.reduce((sum, verdict) => sum + people[verdict], 0);
  const bay = (search.get('bay') as Bay | null) ?? null;
  const area = search.get('area');
  const verdict = (search.get('verdict') as VerdictWord | null) ?? null;
  /** The same chosen again is chosen no more. */
  const set = (key: string, value: string | null) => change({ [key]: search.get(key) === value ? null : value }, false);
  if (all === 0)
    return (
      <div className="px-6 pt-4">
        <h1>No crossing yet</h1>
        <WaysIn>
          A crossing is one person on one endpoint at one place going through to one resource. Begin with one person on the telephone, or
          with the list of devices you have.
        </WaysIn>
        <Suspense>
          <FirstSteps />
        </Suspense>
      </div>
    );
  const bad = all - people.clear;
  const shown = leading.filter((finding) => (!area || finding.area === area) && (!bay || finding.bay === bay));
  return (
    <div className="px-6 max-[719px]:px-4 grid grid-cols-1 min-[1000px]:grid-cols-[minmax(0,1fr)_minmax(280px,324px)] gap-x-12 relative">
      <section className="min-w-0">
        <div className="pt-[15px] flex items-baseline flex-wrap gap-x-3.5 min-h-[52px]">
          <h1 className="mr-1">{bad === 0 ? `All ${all} people are Clear` : `${bad} of ${all} people are not Clear`}</h1>
          {(['blocked', 'limited', 'unknown'] as const).map((word) =>
            people[word] ? (
              <Link
                key={word}
                to={`/crossings${query({ verdict: word, bay, area })}`}
                className={`inline-flex items-center gap-1.5 font-semibold text-[14px] min-h-[26px] hover:underline ${verdictInk[word]}`}
              >
                <VerdictShape verdict={word} />
                {people[word]} {verdictWords[word]}
              </Link>
            ) : null,
          )}
          <span className="ml-auto no-print max-[719px]:hidden min-w-[76px] min-h-[24px]">
            <Suspense>
              <ViewsMenu />
            </Suspense>
          </span>
          <span className="text-ink-3 w-full pb-1.5">{weekdayMoment(at)}</span>
        </div>
        {all < 20 && (
          <Suspense>
            <FirstSteps />
          </Suspense>
        )}
        {board.settling && <SettlingLine settling={board.settling} />}
        {board.worstHour && (
          <p className="mb-1.5 text-ink-2">
            Worst hour {clock(board.worstHour.hour)} to {clock(board.worstHour.hour + 1)}, local time: {board.worstHour.crossings}{' '}
            {board.worstHour.crossings === 1 ? 'crossing is at its' : 'crossings are at their'} worst then.
          </p>
        )}
        {!hand && <BoardSection bays={board.bays} chosen={bay} onChoose={(next) => set('bay', next)} />}
        {(area ?? bay ?? verdict) && (
          <p className="mt-2 text-ink-2">
            Shown: {[area, bay && `held in ${bay}`, verdict && verdictWords[verdict]].filter(Boolean).join(', ')}{' '}
            <button className="btn btn-small btn-quiet" onClick={() => change({ bay: null, area: null, verdict: null }, false)}>
              Show all
            </button>
          </p>
        )}
        <Later height="h-[600px]">
          {hand ? (
            <BoardPlaces board={board} leading={leading} bay={bay} />
          ) : (
            <BoardMatrix board={board} bay={bay} area={area} onArea={(next) => set('area', next)} />
          )}
        </Later>
        <p className="flex flex-wrap gap-x-[18px] gap-y-1 mt-3 text-[12.5px] text-ink-2 items-center">
          {barOrder.map((word) => (
            <span key={word} className="inline-flex items-center gap-1.5">
              <PeopleBar counts={{ blocked: 0, limited: 0, unknown: 0, clear: 0, [word]: 1 }} perPerson={24} height={12} />
              <VerdictShape verdict={word} />
              <span className={verdictInk[word]}>{verdictWords[word]}</span>
            </span>
          ))}
          <span>Bar length is people, each counted once, at their worst crossing.</span>
        </p>
      </section>
      <Later height="h-[600px]">
        <LeadingFindings findings={shown} />
      </Later>
      <span aria-hidden className="hidden min-[1000px]:block absolute top-[18px] bottom-0 border-l border-rule right-[calc(324px+48px)]" />
    </div>
  );
}

const wayWords: Record<Settling['way'], string> = {
  'field check': 'field check',
  'report of the hosts': 'report of the hosts',
  'look at the gateway': 'look at the gateway',
  'look at the device': 'look at a device',
  'timed sign-in': 'timed sign-in',
  'ask for what is assumed': 'question',
};

/** The one thing to find out that tells most. */
function SettlingLine({ settling: { way, location, crossings, people, times, minutes } }: { settling: Settling }) {
  const first = wayWords[way];
  return (
    <p className="mb-1.5 text-ink-2">
      <Link className="link" to={`/crossings${query({ verdict: 'unknown', search: location })}`}>
        {times === 1 ? `One ${first} at ${location}` : `${times} × ${first} at ${location}`}
      </Link>{' '}
      would tell most of what is not known: {crossings === 1 ? '1 crossing' : `${crossings} crossings`} of{' '}
      {people === 1 ? '1 person' : `${people} people`}, {minutes === 1 ? '1 minute' : `${minutes} minutes`}.{' '}
      <Link className="link" to="/estate/gaps">
        What to measure next
      </Link>
    </p>
  );
}
