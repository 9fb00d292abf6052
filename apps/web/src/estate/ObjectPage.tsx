import { useQuery } from '@tanstack/react-query';
import { kindOrder, type ObjectKind } from '@underpass/contracts';
import { useParams } from 'react-router';
import { isGone } from '../api/client.js';
import { Failed, Loading } from '../ui/States.js';
import { NoSuchKind } from './NoSuchKind.js';
import { ObjectForm } from './ObjectForm.js';
import { estateQueries } from './queries.js';

/** One object of the estate: a form from the same definition as the files, with who changed it and when. */
export function ObjectPage() {
  const { kind: word, id = '' } = useParams();
  const kind = word as ObjectKind;
  const known = kindOrder.includes(kind);
  const fresh = id === 'new';
  const answer = useQuery({ ...estateQueries.one(kind, id), enabled: known && !fresh });
  if (!known)
    return (
      <div className="px-6 pt-4">
        <NoSuchKind page word={String(word)} />
      </div>
    );
  if (!fresh && answer.isPending)
    return (
      <div className="px-6">
        <Loading what="the object" />
      </div>
    );
  if (!fresh && !answer.data)
    return (
      <div className="px-6">
        <Failed page what="This object" error={answer.error as Error} onRetry={() => void answer.refetch()} />
      </div>
    );
  return (
    <ObjectForm
      key={`${kind}/${id}`}
      kind={kind}
      object={answer.data?.object ?? {}}
      version={answer.data?.version ?? null}
      history={answer.data?.history ?? []}
      fresh={fresh}
      gone={isGone(answer)}
    />
  );
}
