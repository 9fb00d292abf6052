import { PortKind, type Screen } from '@underpass/contracts';
import { besideScreen, deskSides, makePrimary, mirrorScreen, primaryOf, wayWords, type DeskSide } from '@underpass/core';
import { useId, useState } from 'react';
import { Strip } from '../../ui/Strip.js';
import { screenName } from './names.js';

const ways = [
  ['port', 'Port of the device'],
  ['adapter', 'Adapter to'],
  ['cable', 'Cable for'],
  ['input', 'Socket of the screen'],
] as const;
const turns = ['0', '90', '180', '270'] as const;

/** What one screen is, the way its picture takes to it, and where it stands. */
export function ScreenPanel({
  screens,
  which,
  onChange,
  canEdit,
}: {
  screens: readonly Screen[];
  which: number;
  onChange: (screens: Screen[]) => void;
  canEdit: boolean;
}) {
  const screen = screens[which] as Screen;
  const set = (change: Partial<Screen>) =>
    onChange(
      screens.map((each, i) => {
        if (i !== which) return each;
        const next: Record<string, unknown> = { ...each, ...change };
        for (const [key, value] of Object.entries(next)) if (value === undefined) delete next[key];
        return next as Screen;
      }),
    );
  const primary = which === primaryOf(screens);
  return (
    <section aria-label={screenName(screens, which)} className="min-w-0">
      <h2>{screenName(screens, which)}</h2>
      <fieldset disabled={!canEdit} className="mt-2 grid grid-cols-[132px_minmax(0,1fr)] gap-y-2 items-center">
        <Words key={`name-${which}`} label="Name" value={screen.name ?? ''} onSet={(name) => set({ name: name || undefined })} />
        <Figure
          key={`w-${which}`}
          label="Width, px"
          value={screen.widthPx}
          min={320}
          max={16384}
          onSet={(widthPx) => widthPx !== null && set({ widthPx })}
          needed
        />
        <Figure
          key={`h-${which}`}
          label="Height, px"
          value={screen.heightPx}
          min={240}
          max={16384}
          onSet={(heightPx) => heightPx !== null && set({ heightPx })}
          needed
        />
        <Figure
          key={`r-${which}`}
          label="Rate, Hz"
          value={screen.refreshHz ?? null}
          min={1}
          max={500}
          onSet={(hz) => set({ refreshHz: hz ?? undefined })}
        />
        <Figure
          key={`s-${which}`}
          label="Scale"
          value={screen.scale}
          min={0.5}
          max={5}
          onSet={(scale) => scale !== null && set({ scale })}
          needed
        />
        <span>Turned</span>
        <Strip
          label="Turned"
          options={turns}
          words={{ 0: '0°', 90: '90°', 180: '180°', 270: '270°' }}
          value={String(screen.turned ?? 0) as (typeof turns)[number]}
          onChange={(turn) => set({ turned: turn === '0' ? undefined : Number(turn) })}
          disabled={!canEdit}
        />
        {ways.map(([part, label]) => (
          <Way key={part} label={label} value={screen[part]} onSet={(kind) => set({ [part]: kind })} />
        ))}
        <Figure
          key={`wmm-${which}`}
          label="Width, mm"
          value={screen.widthMm ?? null}
          min={10}
          max={10000}
          whole
          onSet={(mm) => set({ widthMm: mm ?? undefined })}
        />
        <Figure
          key={`hmm-${which}`}
          label="Height, mm"
          value={screen.heightMm ?? null}
          min={10}
          max={10000}
          whole
          onSet={(mm) => set({ heightMm: mm ?? undefined })}
        />
      </fieldset>
      {canEdit && (
        <div className="mt-3 flex flex-wrap gap-2">
          {!primary && (
            <button className="btn btn-small" onClick={() => onChange(makePrimary(screens, which))}>
              Make it the primary
            </button>
          )}
          {!primary && (
            <button className="btn btn-small" onClick={() => onChange(mirrorScreen(screens, which, !screen.mirrors))}>
              {screen.mirrors ? 'Extend to it' : 'Mirror the primary'}
            </button>
          )}
          {screens.length > 1 && (
            <button className="btn btn-small" onClick={() => onChange(screens.filter((_, i) => i !== which))}>
              Take it away
            </button>
          )}
        </div>
      )}
      {canEdit && screens.length > 1 && !screen.mirrors && <Beside screens={screens} which={which} onChange={onChange} />}
    </section>
  );
}

/** Puts it beside another one, for whoever does not drag. */
function Beside({ screens, which, onChange }: { screens: readonly Screen[]; which: number; onChange: (screens: Screen[]) => void }) {
  const [side, setSide] = useState<DeskSide>('right of');
  const others = screens.flatMap((screen, i) => (i === which || screen.mirrors ? [] : [i]));
  const [chosen, setChosen] = useState<number | null>(null);
  const other = chosen !== null && others.includes(chosen) ? chosen : others[0];
  if (other === undefined) return null;
  return (
    <div role="group" aria-label="Where it stands" className="mt-3 flex flex-wrap gap-2 items-center">
      <select className="field w-auto" aria-label="Side" value={side} onChange={({ target }) => setSide(target.value as DeskSide)}>
        {deskSides.map((each) => (
          <option key={each}>{each}</option>
        ))}
      </select>
      <select
        className="field w-auto max-w-[160px]"
        aria-label="Other screen"
        value={other}
        onChange={({ target }) => setChosen(Number(target.value))}
      >
        {others.map((i) => (
          <option key={i} value={i}>
            {screenName(screens, i)}
          </option>
        ))}
      </select>
      <button className="btn btn-small" onClick={() => onChange(besideScreen(screens, which, side, other))}>
        Put it there
      </button>
    </div>
  );
}

function Way({ label, value, onSet }: { label: string; value: PortKind | undefined; onSet: (kind: PortKind | undefined) => void }) {
  const id = useId();
  return (
    <>
      <label htmlFor={id}>{label}</label>
      <select
        id={id}
        className="field w-full"
        value={value ?? ''}
        onChange={({ target }) => onSet((target.value || undefined) as PortKind | undefined)}
      >
        <option value="">not known</option>
        {PortKind.options.map((kind) => (
          <option key={kind} value={kind}>
            {wayWords[kind]}
          </option>
        ))}
      </select>
    </>
  );
}

function Words({ label, value, onSet }: { label: string; value: string; onSet: (text: string) => void }) {
  const id = useId();
  return (
    <>
      <label htmlFor={id}>{label}</label>
      <input
        id={id}
        className="field w-full"
        autoComplete="off"
        maxLength={120}
        value={value}
        onChange={({ target }) => onSet(target.value.trimStart())}
      />
    </>
  );
}

/** A figure of a screen: what is no such figure stays as it was typed, says so, and is not taken over. */
function Figure({
  label,
  value,
  min,
  max,
  onSet,
  needed = false,
  whole = label.endsWith('px'),
}: {
  label: string;
  value: number | null;
  min: number;
  max: number;
  onSet: (value: number | null) => void;
  needed?: boolean;
  whole?: boolean;
}) {
  const id = useId();
  const [typed, setTyped] = useState<string | null>(null);
  const shown = typed ?? (value === null ? '' : String(value));
  const read = shown.trim() === '' ? null : Number(shown.replace(',', '.'));
  const fits = read === null ? !needed : Number.isFinite(read) && read >= min && read <= max && (!whole || Number.isInteger(read));
  return (
    <>
      <label htmlFor={id}>{label}</label>
      <div>
        <input
          id={id}
          className="field w-[92px]"
          inputMode="decimal"
          autoComplete="off"
          aria-invalid={!fits}
          aria-describedby={`${id}-fault`}
          value={shown}
          onChange={({ target }) => {
            setTyped(target.value);
            const next = target.value.trim() === '' ? null : Number(target.value.replace(',', '.'));
            const good =
              next === null ? !needed : Number.isFinite(next) && next >= min && next <= max && (!whole || Number.isInteger(next));
            if (good) onSet(next);
          }}
          onBlur={() => fits && setTyped(null)}
        />
        <span id={`${id}-fault`} className="text-brick ml-2">
          {fits ? '' : `${min} to ${max}`}
        </span>
      </div>
    </>
  );
}
