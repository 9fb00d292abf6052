import type { CrossingView } from '@underpass/core';
import { Link } from 'react-router';
import { Timeline } from '../drawing/Timeline.js';
import { comparedRows, type TimelineRow } from '../drawing/timelineRows.js';
import type { SourceWord } from '../ui/SourceMark.js';
import { momentAt } from '../ui/times.js';
import { fixed } from '../ui/figures.js';

const rowsOf = (view: CrossingView): TimelineRow[] => view.steps.map((step) => ({ ...step, source: step.source as SourceWord }));

/** The sign-on step by step, what shortcuts would save, and the sessions the person has elsewhere. */
export function SignonPanel({ view, before, limitS }: { view: CrossingView; before: CrossingView | null; limitS: number }) {
  const end = (steps: CrossingView['steps']) => Math.max(0, ...steps.map((step) => step.startS + step.seconds));
  const { sessions, outcomes, policy } = view.leftBehind;
  const saving = view.shortcuts.filter((shortcut) => !shortcut.inUse && shortcut.savedS >= 0.05);
  return (
    <section
      aria-label="Sign-on"
      className="pt-3 pb-4 border-b border-rule grid grid-cols-1 min-[1000px]:grid-cols-[minmax(0,1.9fr)_minmax(0,1fr)] gap-x-12"
    >
      <Timeline
        rows={before ? comparedRows(rowsOf(view), rowsOf(before)) : rowsOf(view)}
        totalS={end(view.steps)}
        {...(before ? { beforeTotalS: end(before.steps) } : {})}
        limitS={limitS}
        label="Steps until it is usable"
      />
      <div>
        <h2>What would be quicker</h2>
        <ul className="mt-1 border-t-[1.5px] border-ink">
          {saving.map((shortcut) => (
            <li key={shortcut.id} className="border-b border-rule py-1 flex gap-3">
              <span className="flex-1">{shortcut.name}</span>
              <b>{fixed(shortcut.savedS, 1)} s less</b>
            </li>
          ))}
          {saving.length === 0 && <li className="py-1 text-ink-2">Every shortcut is in use or brings nothing here.</li>}
        </ul>
        <p className="mt-1.5">
          <Link className="link" to="/access/sign-on">
            For a group, in hours a year
          </Link>
        </p>
        {sessions.length > 0 && (
          <>
            <h2 className="mt-4">{sessions.length === 1 ? 'A session' : `${sessions.length} sessions`} left elsewhere</h2>
            <ul className="mt-1 border-t-[1.5px] border-ink">
              {sessions.map((session) => (
                <li key={session.id} className="border-b border-rule py-1">
                  <b className="font-semibold">{session.resourceName}</b> <span className="text-ink-3">{session.state}</span>
                  {session.endpoint && (
                    <>
                      {' '}
                      on <span className="mono">{session.endpoint}</span>
                    </>
                  )}
                  <span className="text-ink-3">, used {momentAt(session.usedAt, view.day.zone)}</span>
                </li>
              ))}
            </ul>
            <table className="w-full mt-2 border-collapse">
              <caption className="text-left text-ink-3">What each choice does; in force: {policy}</caption>
              <tbody>
                {outcomes.map((outcome) => (
                  <tr key={outcome.choice} className="border-b border-rule align-top">
                    <td className="pr-3 py-1 whitespace-nowrap">
                      <span className={outcome.choice === policy ? 'font-bold' : ''}>{outcome.choice}</span>
                      {outcome.choice === 'all' && <span className="text-ink-3"> not offered</span>}
                    </td>
                    <td className="py-1">
                      {outcome.does}
                      {outcome.warning && <span className="block text-amber font-semibold">{outcome.warning}</span>}
                    </td>
                  </tr>
                ))}
              </tbody>
            </table>
          </>
        )}
      </div>
    </section>
  );
}
