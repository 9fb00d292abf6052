import { useQuery, useQueryClient } from '@tanstack/react-query';
import type { JobStarted, ListLook, ListOutcome, TableMap } from '@underpass/contracts';
import { call, query } from '../api/client.js';
import { cancelJob, useJob } from '../api/jobs.js';
import { useTitle } from '../shell/useTitle.js';
import { Failed, Loading } from '../ui/States.js';
import { useAction } from '../ui/useAction.js';
import { useAddress } from '../ui/useAddress.js';
import { useTyped } from '../ui/useTyped.js';
import { Work } from '../ui/Work.js';
import { ListFacts } from './ListFacts.js';
import { KeptMaps } from './KeptMaps.js';
import { ListResult, type Wish } from './ListResult.js';
import { MappingTable } from './MappingTable.js';
import { intakeQueries, type ReadAs } from './queries.js';
import { Rest } from './Rest.js';
import { SendList } from './SendList.js';
import { BackToEstate } from '../ui/BackToEstate.js';

/** A list of somebody's: sent as it is, mapped, looked at, mended and taken in. */
export function ListPage() {
  useTitle('Take in a list');
  const { search, set } = useAddress();
  const client = useQueryClient();
  const id = search.get('list');
  const { busy, fault, refuse, run } = useAction();
  const send = (name: string, content: Blob) =>
    run(async () => {
      const look = await call<ListLook>(`intake/lists${query({ name })}`, 'POST', content);
      // what was looked at as it came is not read a second time
      client.setQueryData(intakeQueries.list(look.id, {}).queryKey, look);
      set({ list: look.id }, false);
    });
  return (
    <div className="px-6 max-[719px]:px-4 pt-[15px] max-w-[1240px]">
      <BackToEstate />
      <h1>Take in a list</h1>
      <p className="text-ink-2 mt-1 max-w-[760px]">
        A spreadsheet, a workbook, or what a directory exports, as it is. First it is read and nothing is written; you see what each row
        comes to, and what keeps a row out.
      </p>
      <SendList busy={busy} onSend={(name, content) => void send(name, content)} onRefuse={refuse} />
      <p role="alert" className="text-brick mt-2 empty:hidden">
        {fault}
      </p>
      {id && <Mapping key={id} id={id} />}
    </div>
  );
}

/** The list that was sent, with its mapping and what that comes to. */
function Mapping({ id }: { id: string }) {
  const [as, setAs] = useTyped<ReadAs>(`list.${id}.as`, {});
  const look = useQuery(intakeQueries.list(id, as));
  if (look.isPending) return <Loading what="the list" />;
  if (!look.data) return <Failed what="The list" error={look.error} onRetry={() => void look.refetch()} />;
  const reading = look.data.kind + JSON.stringify(as);
  return <Mapped key={reading} id={id} look={look.data} reading={reading} onRead={(next) => setAs({ ...as, ...next })} />;
}

function Mapped({ id, look, reading, onRead }: { id: string; look: ListLook; reading: string; onRead: (as: ReadAs) => void }) {
  const [map, setMap] = useTyped<TableMap>(`list.${id}.${reading}.map`, look.map);
  const [mends, setMends] = useTyped<Record<string, Record<string, string>>>(`list.${id}.mends`, {});
  /** What is asked for beyond the mapping: as which source, over the others, and what is taken away. */
  const [wish, setWish] = useTyped<Wish>(`list.${id}.wish`, { over: false, remove: [] });
  /** The work on it, and what it was worked out from: another mapping makes its outcome old. */
  const [{ job, basis }, setWork] = useTyped<{ job: string | null; basis: string }>(`list.${id}.work`, { job: null, basis: '' });
  const { fault, run } = useAction();
  const work = useJob(job);
  // under which name it is kept makes nothing of it another
  const now = JSON.stringify({ map, mends, over: wish.over, remove: wish.remove });
  const start = (what: 'check' | 'take') =>
    run(async () => {
      const { job: begun } = await call<JobStarted>(`intake/lists/${id}/${what}`, 'POST', { map, mends, ...wish });
      setWork({ job: begun.id, basis: now });
    });
  const running = work.job !== null;
  const outcome = work.ended?.state === 'done' ? (work.ended.result as ListOutcome) : null;
  return (
    <>
      <ListFacts look={look} onRead={onRead} />
      <KeptMaps
        look={look}
        map={map}
        onUse={(next, source) => {
          setMap(next);
          setWish({ ...wish, source });
        }}
        onKept={(source) => setWish({ ...wish, source })}
      />
      <MappingTable look={look} map={map} onChange={setMap} />
      <Rest map={map} onChange={setMap} />
      <div className="mt-5 flex gap-3 items-center flex-wrap">
        <button className="btn btn-primary" disabled={running} onClick={() => void start('check')}>
          See what it comes to
        </button>
        <span className="text-ink-3">Nothing is written.</span>
        <span role="alert" className="text-brick empty:hidden">
          {fault}
        </span>
      </div>
      {work.job && <Work job={work.job} onCancel={() => void cancelJob(work.job?.id ?? '')} />}
      {work.ended && work.ended.state !== 'done' && (
        <p role="alert" className="text-brick mt-3">
          {work.ended.message ?? 'It was called off. Nothing was written.'}
        </p>
      )}
      {outcome && (
        <ListResult
          look={look}
          map={map}
          outcome={outcome}
          stale={basis !== now}
          mends={mends}
          wish={wish}
          onWish={setWish}
          onMend={setMends}
          onMap={setMap}
          onCheck={() => void start('check')}
          onTake={() => void start('take')}
        />
      )}
    </>
  );
}
