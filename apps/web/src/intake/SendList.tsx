import { useState } from 'react';
import { useDrop } from '../ui/useDrop.js';

const mostBytes = 60 * 1024 * 1024;

/** Where a list is dropped, chosen or pasted. */
export function SendList({
  busy,
  onSend,
  onRefuse,
}: {
  busy: boolean;
  onSend: (name: string, content: Blob) => void;
  onRefuse: (fault: string) => void;
}) {
  const [pasting, setPasting] = useState(false);
  const [text, setText] = useState('');
  const take = (files: FileList | null) => {
    const [file, more] = files ?? [];
    if (!file) return;
    if (more) return onRefuse('One list at a time. A folder of an estate is imported whole, under Import a folder.');
    if (file.size > mostBytes) return onRefuse(`${file.name} is larger than 60 MB. Divide it.`);
    onSend(file.name, file);
  };
  const { over, listens } = useDrop(take);
  return (
    <div className={`mt-4 border border-dashed border-rule-2 p-4 ${over ? 'bg-tile-wash' : 'bg-sheet'}`} {...listens}>
      <div className="flex flex-wrap gap-3 items-center">
        <label className="btn btn-primary focus-within:outline-2">
          {busy ? 'Reading the list' : 'Choose a list'}
          <input
            type="file"
            accept=".csv,.tsv,.txt,.xlsx,.ldif,.ldf,.json"
            className="sr-only"
            disabled={busy}
            onChange={({ target }) => {
              take(target.files);
              target.value = '';
            }}
          />
        </label>
        <button type="button" className="btn" aria-expanded={pasting} onClick={() => setPasting(!pasting)}>
          Paste cells
        </button>
        <span className="text-ink-3">or drop the file here: CSV, .xlsx, LDIF, JSON</span>
      </div>
      {pasting && (
        <div className="mt-3">
          <textarea
            aria-label="Cells, as copied from a spreadsheet"
            className="mono w-full h-[96px] border border-rule-2 bg-paper p-2 rounded-[2px]"
            placeholder="Copy the cells with their heads in the spreadsheet, and paste them here"
            value={text}
            onChange={({ target }) => setText(target.value)}
          />
          <button
            type="button"
            className="btn btn-small mt-1"
            disabled={busy || text.trim() === ''}
            onClick={() => onSend('pasted cells', new Blob([text]))}
          >
            Read these cells
          </button>
        </div>
      )}
    </div>
  );
}
