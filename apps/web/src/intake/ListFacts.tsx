import { kindWords, listedKinds, type ListLook, type ObjectKind } from '@underpass/contracts';
import { useState } from 'react';
import type { ReadAs } from './queries.js';

const encodings: Record<string, string> = { 'utf-8': 'UTF-8', 'utf-16': 'UTF-16', 'windows-1252': 'Windows-1252' };
const delimiters: Record<string, string> = { ';': 'a semicolon', ',': 'a comma', '\t': 'a tab', '|': 'a bar' };

/** How the list is written, as it was found; and what it is read as. */
export function ListFacts({ look, onRead }: { look: ListLook; onRead: (as: ReadAs) => void }) {
  const { format, encoding, delimiter, headerRow, rows, sheets, notes } = look;
  const how = [
    format === 'xlsx' ? 'workbook' : format === 'ldif' ? 'entries of a directory' : format === 'json' ? 'objects in JSON' : 'rows of text',
    encoding && (encodings[encoding] ?? encoding),
    delimiter && `cells parted by ${delimiters[delimiter] ?? delimiter}`,
    `${rows} ${format === 'ldif' ? (rows === 1 ? 'entry' : 'entries') : rows === 1 ? 'row' : 'rows'}`,
  ].filter(Boolean);
  return (
    <section aria-labelledby="facts" className="mt-5 border-t-[1.5px] border-ink pt-3">
      <h2 id="facts">
        {look.name} <span className="text-ink-2 font-normal">{how.join(', ')}</span>
      </h2>
      <div className="mt-2 flex flex-wrap gap-x-6 gap-y-2 items-center">
        <label className="flex gap-2 items-center">
          A list of
          <select className="field" value={look.kind} onChange={({ target }) => onRead({ kind: target.value as ObjectKind })}>
            {listedKinds.map((kind) => (
              <option key={kind} value={kind}>
                {kindWords[kind].many}
              </option>
            ))}
          </select>
        </label>
        {sheets && sheets.names.length > 1 && (
          <label className="flex gap-2 items-center">
            Sheet
            <select className="field" value={sheets.read} onChange={({ target }) => onRead({ sheet: target.value, headerRow: undefined })}>
              {sheets.names.map((name) => (
                <option key={name}>{name}</option>
              ))}
            </select>
          </label>
        )}
        {(format === 'csv' || format === 'xlsx') && <HeadLine key={headerRow} headerRow={headerRow} onRead={onRead} />}
      </div>
      {notes.length > 0 && (
        <ul className="mt-2 text-ink-2">
          {notes.slice(0, 5).map(({ row, text }, i) => (
            <li key={i}>
              Row {row}: {text}
            </li>
          ))}
          {notes.length > 5 && <li className="text-ink-3">and {notes.length - 5} more</li>}
        </ul>
      )}
    </section>
  );
}

/** The line that names the columns; another may be said. */
function HeadLine({ headerRow, onRead }: { headerRow: number | null; onRead: (as: ReadAs) => void }) {
  const [typed, setTyped] = useState(String(headerRow ?? 0));
  const put = () => {
    const line = Number(typed);
    if (Number.isInteger(line) && line >= 0 && line <= 1000 && line !== (headerRow ?? 0)) onRead({ headerRow: line });
  };
  return (
    <label className="flex gap-2 items-center">
      Columns are named in line
      <input
        className="field w-[64px]"
        inputMode="numeric"
        value={typed}
        onChange={({ target }) => setTyped(target.value)}
        onBlur={put}
        onKeyDown={({ key }) => key === 'Enter' && put()}
      />
      <span className="text-ink-3">0: in none</span>
    </label>
  );
}
