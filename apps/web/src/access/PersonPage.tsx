import { useQuery } from '@tanstack/react-query';
import type { AccessPersonView, SeenItem } from '@underpass/contracts';
import { useEffect, useRef, useState } from 'react';
import { Link, useParams, useSearchParams } from 'react-router';
import { isGone } from '../api/client.js';
import { useCanEdit } from '../api/session.js';
import { Chains, type ChainRow } from '../drawing/Chain.js';
import { SourceMark } from '../ui/SourceMark.js';
import { Failed, Loading } from '../ui/States.js';
import { Strip } from '../ui/Strip.js';
import { Consequence } from './Consequence.js';
import { MoveDialog } from './MoveDialog.js';
import { useTitle } from '../shell/useTitle.js';
import { momentAt } from '../ui/times.js';
import { accessQueries } from './queries.js';
import { fixed } from '../ui/figures.js';

/** One person: what they see through what, and why not the rest. */
export function PersonPage() {
  const { id = '' } = useParams();
  const answer = useQuery(accessQueries.person(id));
  if (answer.isPending) return <Loading what="the person" />;
  if (!answer.data || isGone(answer))
    return <Failed page what="This person" error={answer.error as Error} onRetry={() => void answer.refetch()} />;
  return <Person key={id} view={answer.data} />;
}

const names = (items: readonly { name: string }[]) => items.map(({ name }) => name).join(', ');

function sentence(view: AccessPersonView): string {
  const hidden = view.notSeen.filter(({ hiddenIn }) => hiddenIn !== null);
  if (hidden[0]) return `${hidden[0].name} is given but hidden: the publication ${hidden[0].hiddenIn} is attached to no portal.`;
  if (view.after.length === 0) return 'Sees nothing: no group gives a publication that a portal shows.';
  const nowNames = names(view.now);
  if (nowNames !== names(view.after))
    return `Sees ${nowNames || 'nothing'} now, and ${names(view.after)} after the next sign-in${view.desktops.length ? `: then has to choose between ${view.desktops.length} desktops` : ''}.`;
  if (view.startsAtOnce) return `${view.after[0]?.name} starts at once: it is the only one.`;
  if (view.desktops.length) return `Has to choose between ${view.desktops.length} desktops.`;
  return `Chooses from ${view.after.length} resources.`;
}

function Person({ view }: { view: AccessPersonView }) {
  const { person } = view;
  useTitle(person.name);
  const [search, setSearch] = useSearchParams();
  const [when, setWhen] = useState<'now' | 'after'>('after');
  const [move, setMove] = useState(false);
  const canEdit = useCanEdit();
  const shown: SeenItem[] = when === 'now' ? view.now : view.after;
  const differs = names(view.now) !== names(view.after);
  // one alone that is given and hidden is what somebody comes to see
  const hidden = view.notSeen.filter(({ hiddenIn }) => hiddenIn !== null);
  const why = search.get('why') ?? (hidden.length === 1 && !search.has('why') ? (hidden[0]?.id ?? null) : null);
  const crossingOf = (resource: string) => {
    const found = view.crossings.find((each) => each.resource === resource);
    return found ? { to: `/crossings/${encodeURIComponent(found.id)}?q=open` } : {};
  };
  const rows = shown.map((item): ChainRow => ({
    key: item.id,
    nodes: item.chain,
    ...crossingOf(item.id),
    ...(when === 'after' && differs && !view.now.some(({ id }) => id === item.id) ? { note: 'new at the next sign-in' } : {}),
  }));
  return (
    <>
      <p className="text-ink-3">
        <Link className="link inline-flex items-center min-h-[24px]" to="/access">
          Who sees what
        </Link>
      </p>
      <div className="flex items-start gap-x-4 gap-y-2 flex-wrap">
        <div className="flex-1">
          <h1>
            <Link to={`/estate/person/${encodeURIComponent(person.id)}`} className="border-b border-dotted border-ink-3">
              {person.name}
            </Link>{' '}
            <span className="font-normal text-ink-3 text-[15px]">
              <span className="mono">{person.id}</span>, {person.kind}, {view.locationName}
            </span>
          </h1>
          <p className="text-[15px] leading-5 mt-1">{sentence(view)}</p>
          <p className="text-ink-3 mt-1">
            In {names(view.groups) || 'no group'}
            {view.signedInAt && <>; last signed in {momentAt(view.signedInAt, view.zone)}</>}
          </p>
        </div>
        {canEdit && (
          <button className="btn" onClick={() => setMove(true)}>
            Move {person.name}
          </button>
        )}
      </div>
      <div className="mt-4 flex gap-4 items-center">
        <h2>Sees</h2>
        <Strip
          label="When"
          options={['now', 'after']}
          value={when}
          onChange={setWhen}
          words={{ now: `Now, ${view.now.length}`, after: `After the next sign-in, ${view.after.length}` }}
        />
      </div>
      <div className="mt-2">
        {rows.length ? (
          <Chains rows={rows} label={`Resources ${person.name} sees`} />
        ) : (
          <p className="text-ink-2 border-t-[1.5px] border-ink pt-2">Nothing.</p>
        )}
      </div>
      <div className="grid grid-cols-1 min-[1100px]:grid-cols-[260px_minmax(0,1fr)] gap-x-8 mt-6">
        <NotSeen resources={view.notSeen} chosen={why} onChoose={(id) => setSearch({ why: id ?? '' }, { replace: true })} />
        <section aria-label="Why not" className="min-w-0 max-[1099px]:mt-4">
          {why ? (
            <WhyNot key={why} person={person.id} name={person.name} resource={why} onApplied={() => setSearch({}, { replace: true })} />
          ) : (
            <p className="text-ink-3 pt-6">
              Choose a resource to see the first link that is missing and the smallest change that mends it.
            </p>
          )}
        </section>
      </div>
      <Sightings view={view} />
      {view.crossings.length > 0 && (
        <p className="mt-5">
          <Link className="link" to={`/crossings?person=${encodeURIComponent(person.id)}`}>
            See the {view.crossings.length === 1 ? 'crossing' : `${view.crossings.length} crossings`} of {person.name}
          </Link>
        </p>
      )}
      {move && <MoveDialog person={{ id: person.id, name: person.name }} onClose={() => setMove(false)} />}
    </>
  );
}

function NotSeen({
  resources,
  chosen,
  onChoose,
}: {
  resources: AccessPersonView['notSeen'];
  chosen: string | null;
  onChoose: (resource: string | null) => void;
}) {
  const list = useRef<HTMLUListElement>(null);
  // a choice that comes with the address may stand further down than is seen
  useEffect(() => {
    // in braces: newer browsers answer with a promise, which is no clean-up
    void list.current?.querySelector('[aria-pressed=true]')?.scrollIntoView({ block: 'nearest' });
  }, []);
  return (
    <section aria-labelledby="not-seen">
      <h2 id="not-seen">Does not see</h2>
      <ul ref={list} className="mt-1 border-t-[1.5px] border-ink max-h-[300px] overflow-auto">
        {resources.map((resource) => (
          <li key={resource.id} className="border-b border-rule">
            <button
              data-row
              aria-pressed={chosen === resource.id}
              onClick={() => onChoose(chosen === resource.id ? null : resource.id)}
              className={`w-full text-left py-1 pl-3 relative hover:bg-earth flex gap-2 ${chosen === resource.id ? 'font-bold before:content-[""] before:absolute before:left-0 before:inset-y-1 before:w-[5.5px] before:bg-tile' : ''}`}
            >
              <span className="flex-1">{resource.name}</span>
              {resource.hiddenIn && <span className="text-amber font-semibold">hidden</span>}
            </button>
          </li>
        ))}
      </ul>
    </section>
  );
}

function WhyNot({ person, name, resource, onApplied }: { person: string; name: string; resource: string; onApplied: () => void }) {
  const answer = useQuery(accessQueries.why(person, resource));
  if (answer.isPending) return <Loading what="the missing link" />;
  if (!answer.data) return <Failed what="The missing link" error={answer.error} onRetry={() => void answer.refetch()} />;
  const why = answer.data;
  if (why.seen) return <p className="pt-2">{name} sees it after the next sign-in.</p>;
  if (!why.remedy)
    return (
      <p className="pt-2">Nothing in this estate can give it: no publication of its pool is held by a group. Add one under Publications.</p>
    );
  return (
    <>
      <h2>
        Missing: {why.step}
        <span className="font-normal text-ink-3 text-[13px] ml-2">the first link of the chain that is not there</span>
      </h2>
      <div className="mt-1">
        <Chains rows={[{ key: 'why', nodes: why.chain }]} label="The chain with its missing link" />
      </div>
      <p className="mt-2 text-[14px] leading-[18px] font-bold">{why.remedy}</p>
      <p className="text-ink-2">
        {why.alsoOpensCount === 0
          ? 'Nobody else is let in by this.'
          : `Also opens to ${why.alsoOpensCount} ${why.alsoOpensCount === 1 ? 'other person' : 'other people'}: ${names(why.alsoOpensTo)}${why.alsoOpensCount > why.alsoOpensTo.length ? ' and more' : ''}.`}
        {why.alsoGives.length > 0 && ` Also gives ${names(why.alsoGives)}.`}
      </p>
      <div className="mt-2">
        <Consequence change={why.change} summary={why.remedy} onApplied={onApplied} />
      </div>
    </>
  );
}

const outcomes: Record<string, string> = {
  list: 'was shown the list',
  session: 'opened a session',
  refused: 'was refused',
  'no session': 'got no session',
  'second factor late': 'gave the code too late',
};

function Sightings({ view }: { view: AccessPersonView }) {
  if (view.sightings.length === 0) return null;
  return (
    <section className="mt-6" aria-labelledby="seen-at-portals">
      <h2 id="seen-at-portals">What portals report</h2>
      <ul className="mt-1 border-t-[1.5px] border-ink">
        {view.sightings.map((sighting) => (
          <li key={sighting.at} className="border-b border-rule py-1 grid grid-cols-1 min-[640px]:grid-cols-[150px_1fr] gap-3">
            <span className="text-ink-3">{momentAt(sighting.at, view.zone)}</span>
            <span>
              <SourceMark source="reported" /> {sighting.portalName}: {outcomes[sighting.outcome] ?? sighting.outcome}
              {sighting.opened ? ` of ${sighting.opened}` : ''}
              {sighting.outcome === 'list' ? `: ${sighting.saw.join(', ') || 'nothing'}` : ''}
              {sighting.missing.length > 0 && <b className="text-amber">; missing {sighting.missing.join(', ')}</b>}
              {sighting.extra.length > 0 && <b className="text-amber">; not expected {sighting.extra.join(', ')}</b>}
              {sighting.seconds > 0 && <span className="text-ink-3">, {fixed(sighting.seconds, 1)} s</span>}
            </span>
          </li>
        ))}
      </ul>
    </section>
  );
}
