import type { Screen } from '@underpass/contracts';
import { mendsOf, modesThrough, pathFit, screenMendSays, usualModes, wayWords, type EdidMode, type ModePassing } from '@underpass/core';
import { useState } from 'react';
import { modeWords, screenName } from './names.js';

const passWords: Record<ModePassing['passes'], string> = {
  whole: 'passes',
  quartered: 'with a quarter of the colours',
  no: 'does not pass',
  'not known': 'not known',
};
/** So many modes are shown at first. */
const shownFirst = 6;

/** Whether the picture of a screen passes its way, what gets it through, and which of its modes do. */
export function DeskModes({
  screens,
  which,
  modes,
  onChange,
  canEdit,
}: {
  screens: readonly Screen[];
  which: number;
  /** As the screen said itself; without them those in common use. */
  modes: readonly EdidMode[] | undefined;
  onChange: (screens: Screen[]) => void;
  canEdit: boolean;
}) {
  const [all, setAll] = useState(false);
  const screen = screens[which] as Screen;
  const fit = pathFit(screen);
  const mends = mendsOf(screen);
  const passing = modesThrough(screen, modes ?? usualModes(screen));
  const name = screenName(screens, which);
  return (
    <section aria-labelledby="modes" className="mt-6">
      <h2 id="modes">What passes to {name}</h2>
      <p className="mt-1">
        {!fit
          ? 'Nothing of the way to it is known: say the port, the cable or the socket.'
          : `${modeWords(screen)} asks ${fit.neededGbps.toFixed(1)} Gbit/s; ${wayWords[fit.limit.kind]} carries ${Number.isFinite(fit.usableGbps) ? `${fit.usableGbps.toFixed(1)}` : 'all of it'}.`}
        {fit && !fit.fits && <strong className="text-amber"> It does not pass.</strong>}
      </p>
      {mends.length > 0 && (
        <ul className="mt-2">
          {mends.map((mend) => (
            <li key={mend.code} className="border-t border-rule py-1 flex flex-wrap gap-x-4 items-center justify-between">
              <span>{screenMendSays(mend)}</span>
              {canEdit && mend.code !== 'quartered' && (
                <button className="btn btn-small" onClick={() => onChange(screens.map((each, i) => (i === which ? mend.screen : each)))}>
                  Try it
                </button>
              )}
            </li>
          ))}
        </ul>
      )}
      <table className="mt-3 w-full max-w-[640px]">
        <caption className="text-left text-ink-3 pb-1">
          {modes ? 'Modes that it says it shows' : 'Modes in common use up to its size; its own are known once it is read'}
        </caption>
        <thead>
          <tr className="text-left text-ink-3 border-b-[1.5px] border-ink">
            <th className="font-normal py-1 pr-4">Mode</th>
            <th className="font-normal py-1 pr-4 text-right">Asks, Gbit/s</th>
            <th className="font-normal py-1">Through its way</th>
          </tr>
        </thead>
        <tbody>
          {passing.slice(0, all ? undefined : shownFirst).map(({ mode, passes, fit: each }) => (
            <tr key={`${mode.widthPx}x${mode.heightPx}${mode.interlaced}@${mode.refreshHz}`} className="border-b border-rule">
              <td className="py-0.5 pr-4">
                {modeWords(mode)}
                {mode.interlaced && ', interlaced'}
              </td>
              <td className="py-0.5 pr-4 text-right">{each ? each.neededGbps.toFixed(1) : ''}</td>
              <td className={`py-0.5 ${passes === 'whole' ? '' : passes === 'not known' ? 'text-ink-3' : 'text-amber'}`}>
                {passWords[passes]}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      {passing.length > shownFirst && (
        <button className="link min-h-[24px]" onClick={() => setAll(!all)}>
          {all ? 'Show fewer' : `Show all ${passing.length}`}
        </button>
      )}
    </section>
  );
}
