import { Bay, Verdict as VerdictSchema, type CrossingPage, type Verdict as VerdictWord } from '@underpass/contracts/words';
import { X } from 'lucide-react';
import { SearchField } from '../ui/list/SearchField.js';
import { verdictWords, VerdictShape } from '../ui/Verdict.js';

export const crossingFilters = ['search', 'verdict', 'bay', 'area', 'location', 'resource', 'person', 'kind'] as const;
const named = ['area', 'location', 'resource', 'person', 'kind'] as const;

/** What is shown of the crossings, each filter in the address. */
export function CrossingFilters({
  get,
  onSet,
  counts,
  children,
}: {
  get: (key: string) => string | null;
  onSet: (values: Record<string, string | null>, replace?: boolean) => void;
  counts: CrossingPage['counts'] | undefined;
  children: React.ReactNode;
}) {
  return (
    <div className="flex flex-wrap gap-x-3 gap-y-2 items-center py-3 no-print">
      <label className="flex items-center gap-2">
        Search
        <SearchField
          className="field w-[220px]"
          placeholder="Name, endpoint, place, resource"
          value={get('search')}
          onSearch={(search) => onSet({ search }, true)}
        />
      </label>
      <div
        role="group"
        aria-label="Verdict"
        className="inline-flex flex-wrap border border-rule-2 rounded-[2px] bg-sheet divide-x divide-rule-2"
      >
        {VerdictSchema.options.map((verdict: VerdictWord) => (
          <button
            key={verdict}
            aria-pressed={get('verdict') === verdict}
            onClick={() => onSet({ verdict: get('verdict') === verdict ? null : verdict })}
            className="h-[28px] px-2.5 inline-flex items-center gap-1.5 aria-pressed:bg-ink aria-pressed:text-paper aria-pressed:font-bold"
          >
            <VerdictShape verdict={verdict} size={11} />
            {verdictWords[verdict]} <span className={get('verdict') === verdict ? '' : 'text-ink-3'}>{counts?.[verdict] ?? ''}</span>
          </button>
        ))}
      </div>
      <label className="flex items-center gap-2">
        Held in
        <select className="field" value={get('bay') ?? ''} onChange={(event) => onSet({ bay: event.target.value || null })}>
          <option value="">any bay</option>
          {Bay.options.map((bay: string) => (
            <option key={bay}>{bay}</option>
          ))}
        </select>
      </label>
      {children}
      {named.map((key) => {
        const value = get(key);
        return value ? (
          <button
            key={key}
            className="btn btn-small"
            onClick={() => onSet({ [key]: null })}
            aria-label={`Remove the filter ${key} ${value}`}
          >
            {key === 'kind' ? value : `${key}: ${value}`}
            <X size={12} aria-hidden className="ml-1.5" />
          </button>
        ) : null;
      })}
    </div>
  );
}
