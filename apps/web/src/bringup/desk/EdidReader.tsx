import type { Screen } from '@underpass/contracts';
import { edidBytes, readEdid, type Edid, type EdidMode } from '@underpass/core';
import { useState } from 'react';
import { useDrop } from '../../ui/useDrop.js';
import { modeWords } from './names.js';

/** What was read of a screen: what it is, and the modes that it shows. */
export interface ReadScreen {
  screen: Screen;
  modes: EdidMode[];
}

/** A screen as it describes itself; null where it names no size in full. */
function screenOf({ name, manufacturer, preferred, modes, widthMm, heightMm }: Edid): Screen | null {
  const best = preferred ?? [...modes].sort((a, b) => b.widthPx * b.heightPx - a.widthPx * a.heightPx)[0];
  if (!best || best.widthPx < 320 || best.heightPx < 240) return null;
  const inMm = (mm: number | null) => mm !== null && mm >= 10 && mm <= 10_000;
  return {
    name: (name ?? manufacturer).trim() || manufacturer,
    widthPx: best.widthPx,
    heightPx: best.heightPx,
    refreshHz: Math.round(best.refreshHz * 100) / 100,
    scale: 1,
    ...(inMm(widthMm) && inMm(heightMm) ? { widthMm: widthMm ?? 0, heightMm: heightMm ?? 0 } : {}),
  };
}

/** Screens are added by what they say of themselves: files, or hexadecimal digits or base64 that were pasted. Nothing of it is sent. */
export function EdidReader({ onRead }: { onRead: (read: ReadScreen[]) => void }) {
  const [text, setText] = useState('');
  const [told, setTold] = useState<{ good: string[]; wrong: string[] }>({ good: [], wrong: [] });
  const take = (sources: readonly { name: string; bytes: Uint8Array }[]): boolean => {
    const [read, good, wrong]: [ReadScreen[], string[], string[]] = [[], [], []];
    for (const { name, bytes } of sources) {
      const found = edidBytes(bytes);
      const edid = found.ok ? readEdid(found.value) : found;
      if (!edid.ok) {
        wrong.push(`${name}, ${edid.fault.place}: ${edid.fault.problem}; ${edid.fault.remedy}.`);
        continue;
      }
      const screen = screenOf(edid.value);
      if (!screen) wrong.push(`${name}: names no size that it shows.`);
      else {
        read.push({ screen, modes: edid.value.modes });
        good.push(`${screen.name}, made ${edid.value.year}: ${modeWords(screen)}, ${edid.value.modes.length} modes.`);
        wrong.push(...edid.value.problems.map((problem) => `${screen.name}, byte ${problem.offset}: ${problem.text}.`));
      }
    }
    setTold({ good, wrong });
    if (read.length) onRead(read);
    return read.length > 0;
  };
  const takeFiles = async (files: FileList) =>
    take(
      await Promise.all(
        [...files]
          .slice(0, 16)
          .map(async (file) => ({ name: file.name, bytes: new Uint8Array(await file.slice(0, 100_000).arrayBuffer()) })),
      ),
    );
  const { over, listens } = useDrop((files) => void takeFiles(files));
  return (
    <section aria-labelledby="edid" className={`mt-6 ${over ? 'bg-tile-wash' : ''}`} {...listens}>
      <h2 id="edid">Add screens by what they say of themselves</h2>
      <label className="block text-ink-2 mt-1">
        Paste the EDID of a screen as hexadecimal digits or base64, or drop its files here.
        <textarea
          className="field block w-full h-auto mt-2 font-mono text-[12.5px]"
          rows={3}
          spellCheck={false}
          value={text}
          onChange={({ target }) => setText(target.value)}
        />
      </label>
      <p className="mt-2 flex gap-2">
        <button
          className="btn btn-small"
          disabled={text.trim() === ''}
          onClick={() => take([{ name: 'What was pasted', bytes: new TextEncoder().encode(text) }]) && setText('')}
        >
          Read it
        </button>
        <label className="btn btn-small focus-within:outline-2">
          Read files
          <input
            type="file"
            multiple
            className="sr-only"
            aria-label="EDID files"
            onChange={({ target }) => target.files && void takeFiles(target.files).finally(() => (target.value = ''))}
          />
        </label>
      </p>
      <div role="status" className="mt-2">
        {told.good.map((line) => (
          <p key={line}>{line}</p>
        ))}
        {told.wrong.map((line) => (
          <p key={line} className="text-amber">
            {line}
          </p>
        ))}
      </div>
    </section>
  );
}
