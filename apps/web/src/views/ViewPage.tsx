import { useQuery } from '@tanstack/react-query';
import { Navigate, useParams } from 'react-router';
import { Failed, Loading } from '../ui/States.js';
import { viewQueries } from './queries.js';

/** The link of a kept view: leads on to the screen with its filters, order and columns. */
export function ViewPage() {
  const { id = '' } = useParams();
  const view = useQuery(viewQueries.one(id));
  if (view.data) return <Navigate to={`${view.data.path}${view.data.search}`} replace />;
  return (
    <div className="px-6">
      {view.isError ? <Failed page what="This view" error={view.error} onRetry={() => void view.refetch()} /> : <Loading what="the view" />}
    </div>
  );
}
