import { Link } from 'react-router';
import { useCanEdit } from '../api/session.js';
import { clock, clockThere } from '../ui/times.js';
import { Verdict } from '../ui/Verdict.js';
import type { CrossingAnswer } from './crossingAnswer.js';

/** Who and what it is between, and the verdict in one sentence. */
export function CrossingHead({ answer: { id, between, view, at }, onCheck }: { answer: CrossingAnswer; onCheck: () => void }) {
  const canEdit = useCanEdit();
  const there = clockThere(at, view.day.zone);
  return (
    <div className="pt-[13px] pb-3 border-b border-rule flex gap-x-4 gap-y-1 items-start flex-wrap">
      <div className="flex-1 min-w-[min(100%,480px)]">
        <h1 className="text-[18px] leading-6 [&_a]:border-b [&_a]:border-dotted [&_a]:border-ink-3">
          <Link to={`/crossings?person=${encodeURIComponent(between.person.id)}`}>{between.person.name}</Link>{' '}
          <span className="font-normal text-ink-3">on</span>{' '}
          <Link
            to={`/estate/endpoint/${encodeURIComponent(between.endpoint.id)}`}
            className={between.endpoint.name === between.endpoint.id ? 'mono' : ''}
          >
            {between.endpoint.name}
          </Link>{' '}
          <span className="font-normal text-ink-3">at</span>{' '}
          <Link to={`/estate/location/${encodeURIComponent(between.location.id)}`}>{between.location.name}</Link>{' '}
          <span className="font-normal text-ink-3">through to</span>{' '}
          <Link to={`/estate/resource/${encodeURIComponent(between.resource.id)}`}>{between.resource.name}</Link>
        </h1>
        <p className="text-[15px] leading-5 mt-1">
          <Verdict verdict={view.verdict} className="mr-2" />
          {view.sentence}
        </p>
        <p className="no-print mt-1 flex flex-wrap gap-x-5 max-[719px]:hidden">
          <Link
            className="link"
            to={`/settings?endpoint=${encodeURIComponent(between.endpoint.id)}&person=${encodeURIComponent(between.person.id)}`}
          >
            Settings in force
          </Link>
          <Link className="link" to={`/settings/redirection?crossing=${encodeURIComponent(id)}`}>
            Devices on the desk
          </Link>
          <Link className="link" to={`/settings/compare?a=${encodeURIComponent(id)}`}>
            Compare with another
          </Link>
        </p>
      </div>
      <span className="text-ink-3 pt-2 whitespace-nowrap">
        evaluated {clock(at)}
        {there && `, ${there} there`}
      </span>
      {canEdit && (
        <button className="btn no-print max-[719px]:hidden" onClick={onCheck}>
          Send a field check
        </button>
      )}
    </div>
  );
}
