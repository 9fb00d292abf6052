import { useQuery } from '@tanstack/react-query';
import type { ChainNode, PublicationRow } from '@underpass/contracts';
import { Fragment } from 'react';
import { Link, useSearchParams } from 'react-router';
import { Chains, type ChainRow } from '../drawing/Chain.js';
import { Failed, Loading } from '../ui/States.js';
import { useTitle } from '../shell/useTitle.js';
import { accessQueries } from './queries.js';

const node = (kind: ChainNode['kind'], { id, name }: { id: string; name: string }): ChainNode => ({ kind, id, name });

/** A publication as a chain: where the state names a missing link, the gap stands there. */
function chainOf(row: PublicationRow): ChainRow['nodes'] {
  const many = (list: readonly { id: string; name: string }[]) => ({
    id: list.map(({ id }) => id).join('+'),
    name: list.map(({ name }) => name).join(', '),
  });
  return [
    ...(row.groups.length ? [node('group', many(row.groups))] : []),
    ...(row.state === 'held by no group' ? [node('group', { id: 'none', name: 'No group' }), null] : []),
    node('publication', row),
    ...(row.portals.length ? [node('portal', many(row.portals))] : [null, node('portal', { id: 'none', name: 'No portal' })]),
    node('resource', many(row.resources)),
  ];
}
const stateWords = (row: PublicationRow): string =>
  row.state === 'seen' ? `${row.people} people` : row.state === 'nobody is in its groups' ? 'its groups are empty' : row.state;

/** Publications as chains, those nobody sees first. */
export function PublicationsPage() {
  useTitle('Publications');
  const [search, setSearch] = useSearchParams();
  const answer = useQuery(accessQueries.publications());
  if (answer.isPending) return <Loading what="the publications" />;
  if (!answer.data) return <Failed page what="The publications" error={answer.error} onRetry={() => void answer.refetch()} />;
  const rows = answer.data;
  const unseen = rows.filter(({ state }) => state !== 'seen');
  const asked = search.get('resource');
  const empty = [...new Set(rows.flatMap(({ groups }) => groups.filter(({ people }) => people === 0).map(({ name }) => name)))];
  return (
    <>
      <h1>
        {unseen.length === 0
          ? `All ${rows.length} publications are seen by somebody`
          : unseen.length === 1
            ? `${unseen[0]?.name} is seen by nobody: ${stateWords(unseen[0] as PublicationRow)}`
            : `${unseen.length} of ${rows.length} publications are seen by nobody`}
      </h1>
      <p className="text-ink-3 mt-1">
        {empty.length > 0 && (
          <b className="text-ink font-semibold">
            {empty.length === 1 ? `The group ${empty[0]} has nobody in it. ` : `Groups with nobody in them: ${empty.join(', ')}. `}
          </b>
        )}
        A set of resources offered together to groups. What is attached to no portal is seen by nobody, and nothing says so.{' '}
        <Link className="link" to="/estate/publication/new">
          Add a publication
        </Link>
      </p>
      <div className="mt-3">
        <Chains
          withPerson={false}
          rows={rows.map((row) => ({
            key: row.id,
            nodes: chainOf(row),
            note: stateWords(row),
            to: `/estate/publication/${encodeURIComponent(row.id)}`,
          }))}
          label="Publications as chains"
        />
      </div>
      <h2 className="mt-6">Who can reach a resource, and through what</h2>
      <p className="mt-1.5 flex flex-wrap gap-x-3 gap-y-1">
        {rows
          .flatMap(({ resources }) => resources)
          .filter((resource, i, all) => all.findIndex(({ id }) => id === resource.id) === i)
          .sort((a, b) => a.name.localeCompare(b.name))
          .map((resource) => (
            <Fragment key={resource.id}>
              <button
                aria-pressed={asked === resource.id}
                className={`min-h-[26px] ${asked === resource.id ? 'font-bold border-b-[5.5px] border-tile' : 'link'}`}
                onClick={() =>
                  setSearch(asked === resource.id ? {} : { resource: resource.id }, { replace: true, preventScrollReset: true })
                }
              >
                {resource.name}
              </button>
            </Fragment>
          ))}
      </p>
      {asked && <Reach key={asked} id={asked} />}
    </>
  );
}

function Reach({ id }: { id: string }) {
  const answer = useQuery(accessQueries.reach(id));
  if (answer.isPending) return <Loading what="who reaches it" />;
  if (!answer.data) return <Failed what="Who reaches it" error={answer.error} />;
  const { name, people, ways } = answer.data;
  return (
    <div className="mt-3">
      <p className="text-[14px] leading-[18px] font-bold mb-1">
        {people === 0 ? `Nobody reaches ${name}` : `${people} ${people === 1 ? 'person reaches' : 'people reach'} ${name}`}
      </p>
      {ways.length > 0 && (
        <Chains
          withPerson={false}
          rows={ways.map((way) => ({
            key: way.chain.map((each) => each.id).join(),
            nodes: way.chain,
            note: `${way.people}: ${way.first.map((each) => each.name).join(', ')}`,
          }))}
          label={`Ways to ${name}`}
        />
      )}
    </div>
  );
}
