import { useQuery } from '@tanstack/react-query';
import type { Applied, DeskAnswer, Screen } from '@underpass/contracts';
import { checkDesk, clientLimits, deskFaultSays, deskLines, settledDesk, type EdidMode } from '@underpass/core';
import { useState } from 'react';
import { useParams } from 'react-router';
import { call } from '../../api/client.js';
import { useCanEdit } from '../../api/session.js';
import { useTitle } from '../../shell/useTitle.js';
import { NotHere } from '../../ui/States.js';
import { useAction } from '../../ui/useAction.js';
import { useLeaving } from '../../ui/useLeaving.js';
import { useTyped } from '../../ui/useTyped.js';
import { Sheet } from '../Sheet.js';
import { bringupQueries } from '../queries.js';
import { DeskModes } from './DeskModes.js';
import { DeskPlan } from './DeskPlan.js';
import { EdidReader, type ReadScreen } from './EdidReader.js';
import { ScreenPanel } from './ScreenPanel.js';
import { SessionsTable } from './SessionsTable.js';
import { screenName } from './names.js';

const newScreen: Screen = { widthPx: 1920, heightPx: 1080, refreshHz: 60, scale: 1 };
const mostScreens = 16;

/** The screens on the desk of one endpoint: arranged, checked, and what a session gets of them. */
export function DeskPage() {
  const { endpoint = '' } = useParams();
  useTitle(`Screens of ${endpoint}`);
  const answer = useQuery(bringupQueries.desk(endpoint));
  if (!answer.data) return <NotHere asked={answer} awaits={`the screens of ${endpoint}`} what={`The screens of ${endpoint}`} />;
  return <Desk key={endpoint} desk={answer.data} />;
}

/** What is arranged and not noted yet, with the modes that screens told of, by the name that they gave themselves. */
interface Typed {
  screens: Screen[];
  modes: Record<string, EdidMode[]>;
  /** State of the estate that it was begun on: what somebody else changes meanwhile is not overwritten unseen. */
  seen: number;
}

function Desk({ desk }: { desk: DeskAnswer }) {
  const canEdit = useCanEdit();
  const [typed, setTyped] = useTyped<Typed | null>(`desk.${desk.endpoint}`, null);
  const [chosen, setChosen] = useState(0);
  const { busy, fault, run } = useAction();
  const screens = typed?.screens ?? desk.screens;
  const moved = typed !== null && JSON.stringify(typed.screens) !== JSON.stringify(desk.screens);
  const leaving = useLeaving(moved, () => setTyped(null));
  const change = (next: Screen[], modes = typed?.modes ?? {}) => setTyped({ screens: next, modes, seen: typed?.seen ?? desk.version });
  const which = Math.min(chosen, screens.length - 1);
  const limits = {
    client: clientLimits[desk.clientKind],
    oneScaleSet: desk.oneScale,
    devicePixels: desk.mostPixels ?? undefined,
    thin: desk.platform === 'thin',
  };
  const faults = checkDesk(screens, limits);
  const wrong = faults.filter(({ code }) => code !== 'restart first');
  const keep = (file: boolean) =>
    run(async () => {
      const body = { screens: settledDesk(screens), file, seen: typed?.seen ?? desk.version };
      const applied = await call<Applied>(`bringup/endpoints/${encodeURIComponent(desk.endpoint)}/desk`, 'PUT', body);
      setTyped(null);
      const text = file
        ? `The screens of ${desk.endpoint} are noted, and stand in its file.`
        : `The screens of ${desk.endpoint} are noted.`;
      return { text, applied, takenBack: `The screens of ${desk.endpoint} are as before.` };
    });
  const read = (found: readonly ReadScreen[]) => {
    const next = [...screens, ...found.map(({ screen }) => screen)].slice(0, mostScreens);
    const modes = { ...typed?.modes, ...Object.fromEntries(found.map((each) => [each.screen.name ?? '', each.modes])) };
    change(settledDesk(next), modes);
    setChosen(Math.min(screens.length, mostScreens - 1));
  };
  return (
    <Sheet
      back={{ to: `/bringup/${encodeURIComponent(desk.location.id)}?device=${encodeURIComponent(desk.endpoint)}`, name: desk.endpoint }}
    >
      {leaving}
      <h1>{sentence(desk, screens, wrong.length)}</h1>
      <p className="text-ink-2">
        {desk.person ?? 'Nobody’s'}, {desk.location.name}, {desk.clientKind}.
        {desk.measured !== null && ' A field check saw the screens there; for the crossing that counts until these are noted.'}
      </p>
      <div className="mt-3 grid gap-x-8 grid-cols-[minmax(0,1fr)] min-[1000px]:grid-cols-[minmax(0,1fr)_330px]">
        <div className="min-w-0">
          {screens.length > 0 && (
            <DeskPlan
              screens={screens}
              faulty={new Set(wrong.flatMap((each) => each.screens))}
              chosen={which}
              onChoose={setChosen}
              onMove={(next) => change(next)}
              canEdit={canEdit}
            />
          )}
          {canEdit && (
            <p className="mt-2 flex flex-wrap gap-2 items-center">
              <button
                className="btn btn-small"
                disabled={screens.length >= mostScreens}
                onClick={() => change(settledDesk([...screens, newScreen]))}
              >
                Add a screen
              </button>
              {moved && (
                <button className="btn btn-small" onClick={() => setTyped(null)}>
                  Back to what stands
                </button>
              )}
              <span className="text-ink-3">Drag a screen, or move it with the arrow keys.</span>
            </p>
          )}
          <ul className="mt-3" aria-label="What is wrong">
            {faults.map((each, i) => {
              const { what, todo } = deskFaultSays(each, (n) => screenName(screens, n));
              return (
                <li key={i} className="border-t border-rule py-1.5">
                  <strong className={each.code === 'restart first' ? '' : 'text-amber'}>{what}</strong>{' '}
                  <span className="text-ink-2">{todo}</span>
                </li>
              );
            })}
          </ul>
          {screens[which] && (
            <DeskModes
              key={which}
              screens={screens}
              which={which}
              modes={typed?.modes[screens[which].name ?? '']}
              onChange={(next) => change(next)}
              canEdit={canEdit}
            />
          )}
          {screens.length > 0 && <SessionsTable endpoint={desk.endpoint} screens={screens} clientKind={desk.clientKind} work={desk.work} />}
          {canEdit && (
            <div className="mt-6 border-t-[1.5px] border-ink pt-3">
              <div className="flex flex-wrap gap-3">
                <button className="btn btn-primary" disabled={busy || screens.length === 0 || !moved} onClick={() => void keep(false)}>
                  Note these screens
                </button>
                <button className="btn" disabled={busy || screens.length === 0} onClick={() => void keep(true)}>
                  Note them, and write them into its file
                </button>
              </div>
              {fault && (
                <p role="alert" className="text-brick mt-2">
                  {fault}
                </p>
              )}
              {screens.length > 0 && <FileLines screens={screens} file={desk.file} />}
            </div>
          )}
        </div>
        <div className="min-w-0 max-[1000px]:mt-6 min-[1000px]:border-l border-rule min-[1000px]:pl-5">
          {screens[which] && <ScreenPanel screens={screens} which={which} onChange={(next) => change(next)} canEdit={canEdit} />}
          {canEdit && <EdidReader onRead={read} />}
        </div>
      </div>
    </Sheet>
  );
}

function sentence({ endpoint, known }: DeskAnswer, screens: readonly Screen[], wrong: number): string {
  if (screens.length === 0) return known ? `${endpoint} has no screen` : `Nobody said which screens ${endpoint} has`;
  const count = screens.length === 1 ? 'One screen' : `${screens.length} screens`;
  return `${count} at ${endpoint}${wrong === 0 ? (screens.length === 1 ? ', and it works' : ', and all of them work') : wrong === 1 ? ': one thing is wrong' : `: ${wrong} things are wrong`}`;
}

/** What comes to stand in the configuration file of the device. */
function FileLines({ screens, file }: { screens: readonly Screen[]; file: DeskAnswer['file'] }) {
  return (
    <details className="mt-3">
      <summary className="min-h-[24px] cursor-pointer">
        Lines of its configuration file {file.id}
        {!file.there && ', which is made'}
      </summary>
      <pre className="font-mono text-[12.5px] mt-1 whitespace-pre-wrap">
        {['[screens]', ...deskLines(screens).map(({ key, value }) => `${key} = ${value}`)].join('\n')}
      </pre>
    </details>
  );
}
