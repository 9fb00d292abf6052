import { useQuery } from '@tanstack/react-query';
import { kindWords, type GapsAnswer } from '@underpass/contracts';
import { knownWays } from '@underpass/core';
import { useState } from 'react';
import { Link } from 'react-router';
import { query } from '../api/client.js';
import { useCanEdit } from '../api/session.js';
import { useTitle } from '../shell/useTitle.js';
import { labelOf } from '../ui/form/labels.js';
import { Failed, Loading } from '../ui/States.js';
import { WaysIn } from './WaysIn.js';
import { Wide } from '../ui/Wide.js';
import { Differences } from './Differences.js';
import { KnownBar, KnownLegend, knownWords } from './KnownBar.js';
import { intakeQueries } from './queries.js';
import { SendChecks } from './SendChecks.js';
import { BackToEstate } from '../ui/BackToEstate.js';

/** What is known of the estate and how, and which measurement settles most. */
export function GapsPage() {
  const gaps = useQuery(intakeQueries.gaps());
  useTitle('What is known');
  return (
    <div className="px-6 max-[719px]:px-4 pt-[15px] max-w-[1240px]">
      <BackToEstate />
      {gaps.isPending ? (
        <Loading what="what is known" />
      ) : gaps.data ? (
        <Shown gaps={gaps.data} />
      ) : (
        <Failed page what="What is known" error={gaps.error} onRetry={() => void gaps.refetch()} />
      )}
    </div>
  );
}

function Shown({ gaps }: { gaps: GapsAnswer }) {
  const { unknown, atLimit, next, facts, places } = gaps;
  if (places.length === 0)
    return (
      <>
        <h1>Nothing is known yet</h1>
        <WaysIn>There is no crossing: it takes a person, an endpoint, a location and a resource.</WaysIn>
      </>
    );
  const settled = next.reduce((sum, { crossings }) => sum + crossings, 0);
  return (
    <>
      <h1>{unknown === 0 ? 'Nothing that decides is unknown' : `${unknown} ${unknown === 1 ? 'crossing is' : 'crossings are'} Unknown`}</h1>
      {unknown > 0 && (
        <p className="text-ink-2 mt-1">
          {next.length > 0 ? `What is listed here would settle ${settled} of them` : 'No measurement is likely to settle them'}
          {atLimit > 0 && `; ${atLimit} lie so near a limit that measuring again may not settle them`}.
        </p>
      )}
      {next.length > 0 && <Next next={next} />}
      <h2 className="mt-7">By place</h2>
      <KnownLegend />
      <Wide label="What is known by place">
        <table className="w-full border-collapse mt-1">
          <thead className="head">
            <tr>
              <th scope="col">Place</th>
              {kindsOf(facts).map((kind) => (
                <th key={kind} scope="col">
                  {kind === 'location' ? 'Line' : kindWords[kind].many}
                </th>
              ))}
              <th scope="col" className="text-right">
                Unknown
              </th>
            </tr>
          </thead>
          <tbody>
            {places.map((place) => (
              <tr key={place.location} className="border-b border-rule">
                <th scope="row" className="text-left font-semibold py-1.5 pr-4">
                  <Link className="hover:underline" to={`/estate/location/${encodeURIComponent(place.location)}`}>
                    {place.name}
                  </Link>
                </th>
                {kindsOf(facts).map((kind) => (
                  <td key={kind} className="pr-4">
                    <KnownBar facts={place.facts.filter((each) => each.kind === kind)} width={170} />
                  </td>
                ))}
                <td className="text-right">
                  {place.unknown > 0 && (
                    <Link className="link" to={`/crossings${query({ verdict: 'unknown', location: place.location })}`}>
                      {place.unknown}
                    </Link>
                  )}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      </Wide>
      <p className="text-ink-3 mt-1">A fact counts once for each thing it is of, and more the more crossings are Unknown for it.</p>
      <Differences />
      <Facts facts={facts} />
    </>
  );
}

const kindsOf = (facts: GapsAnswer['facts']) => [...new Set(facts.map(({ kind }) => kind))];

/** What is best done next, the most crossings a minute first. */
function Next({ next }: { next: GapsAnswer['next'] }) {
  const canEdit = useCanEdit();
  const [sending, setSending] = useState<GapsAnswer['next'][number]['checks'] | null>(null);
  const easy = next.filter(({ checks, minutes }) => checks.length === minutes);
  return (
    <section aria-labelledby="next" className="mt-4">
      <div className="flex items-baseline gap-4 flex-wrap">
        <h2 id="next">Best learned next</h2>
        {canEdit && easy.length > 1 && (
          <button className="btn btn-small" onClick={() => setSending(easy.flatMap(({ checks }) => checks))}>
            Send all {easy.reduce((sum, { checks }) => sum + checks.length, 0)} field checks
          </button>
        )}
      </div>
      <Wide label="Best learned next">
        <table className="w-full border-collapse mt-1">
          <thead className="head">
            <tr>
              <th scope="col">What to do</th>
              <th scope="col" className="text-right pr-4">
                Settles
              </th>
              <th scope="col" className="text-right pr-4">
                People
              </th>
              <th scope="col" className="text-right pr-4">
                Minutes
              </th>
              <th scope="col">
                <span className="sr-only">Do it</span>
              </th>
            </tr>
          </thead>
          <tbody>
            {next.map((step) => (
              <tr key={step.action} className="border-b border-rule">
                <th scope="row" className="text-left font-semibold py-1 pr-4">
                  {step.action}
                </th>
                <td className="text-right pr-4">{step.crossings}</td>
                <td className="text-right pr-4">{step.people}</td>
                <td className="text-right pr-4">{step.minutes}</td>
                <td className="text-right w-[90px]">
                  {canEdit && step.checks.length > 0 && (
                    <button className="btn btn-small" aria-label={`Send: ${step.action}`} onClick={() => setSending(step.checks)}>
                      Send
                    </button>
                  )}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      </Wide>
      {sending && <SendChecks checks={sending} onClose={() => setSending(null)} />}
    </section>
  );
}

/** Every fact of all places: how many are known in which way, and how many verdicts hang on it. */
function Facts({ facts }: { facts: GapsAnswer['facts'] }) {
  return (
    <>
      <h2 className="mt-7">By fact</h2>
      <Wide label="What is known by fact">
        <table className="w-full border-collapse mt-1">
          <thead className="head">
            <tr>
              <th scope="col">Of</th>
              <th scope="col">Fact</th>
              {knownWays.map((known) => (
                <th key={known} scope="col" className="text-right pr-4">
                  {knownWords[known]}
                </th>
              ))}
              <th scope="col" className="text-right">
                Unknown for it
              </th>
            </tr>
          </thead>
          <tbody>
            {[...facts]
              .sort((a, b) => b.decides - a.decides)
              .map((fact) => (
                <tr key={`${fact.kind}.${fact.field}`} className="border-b border-rule">
                  <td className="text-ink-3 py-0.5 pr-4">{fact.kind === 'location' ? 'Line' : kindWords[fact.kind].one}</td>
                  <th scope="row" className="text-left font-normal pr-4">
                    {labelOf(fact.field)}
                  </th>
                  {knownWays.map((known) => (
                    <td key={known} className="text-right pr-4">
                      {fact[known] > 0 ? fact[known] : ''}
                    </td>
                  ))}
                  <td className={`text-right ${fact.decides > 0 ? 'font-bold' : ''}`}>{fact.decides > 0 ? fact.decides : ''}</td>
                </tr>
              ))}
          </tbody>
        </table>
      </Wide>
    </>
  );
}
