import { languages, type Language } from '@underpass/contracts/texts';
import { useState } from 'react';
import { query } from '../api/client.js';
import { Dialog } from '../ui/Dialog.js';
import { Strip } from '../ui/Strip.js';

const distances = ['0.2', '0.4', '1', '1.7'] as const;

/** The print sheet: codes in a size for a reading distance, as SVG or PDF. */
export function PrintCodes({ ids, onClose }: { ids: string[]; onClose: () => void }) {
  const [distance, setDistance] = useState<(typeof distances)[number]>('0.4');
  const [lang, setLang] = useState<Language>('en');
  const sheet = (format: 'svg' | 'pdf') => `/api/access/links/sheet${query({ ids: ids.join(','), distanceM: distance, format, lang })}`;
  return (
    <Dialog
      open
      onOpenChange={(open) => !open && onClose()}
      title={ids.length === 1 ? 'Print the code' : `Print ${ids.length} codes`}
      description="Error correction level M, quiet zone of four modules, one tenth of the reading distance wide. Print at 100 %."
      wide
    >
      <div className="flex flex-wrap gap-4 items-center">
        <span>Read from</span>
        <Strip
          label="Read from"
          options={distances}
          value={distance}
          onChange={setDistance}
          words={{ '0.2': '20 cm', '0.4': '40 cm', '1': '1 m', '1.7': '1.7 m' }}
        />
        <label className="flex gap-2 items-center">
          in
          <select
            className="field"
            aria-label="Language of the sheet"
            value={lang}
            onChange={({ target }) => setLang(target.value as Language)}
          >
            {Object.entries(languages).map(([each, name]) => (
              <option key={each} value={each}>
                {name}
              </option>
            ))}
          </select>
        </label>
        <span className="flex-1" />
        <a className="btn" href={sheet('svg')} download="codes.svg">
          Save as SVG
        </a>
        <a className="btn btn-primary" href={sheet('pdf')} download="codes.pdf">
          Save as PDF
        </a>
      </div>
      <div className="mt-4 border border-rule-2 h-[46vh] overflow-auto">
        <img src={sheet('svg')} alt={`Print sheet with ${ids.length} ${ids.length === 1 ? 'code' : 'codes'}`} className="w-full" />
      </div>
    </Dialog>
  );
}
