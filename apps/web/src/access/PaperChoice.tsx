import type { DraftView } from '@underpass/contracts';
import { useDrafts } from '../api/drafts.js';
import { useAddress } from '../ui/useAddress.js';

/** The draft that the address names: what a page shows is then as it would be with it. */
export function usePaper(): { draft: DraftView | null; drafts: readonly DraftView[]; choose: (id: string) => void } {
  const { search, set } = useAddress();
  const drafts = useDrafts().data ?? [];
  return {
    draft: drafts.find(({ id }) => id === search.get('draft')) ?? null,
    drafts,
    choose: (id) => set({ draft: id }),
  };
}

/** Chooses between the estate as it is and as it would be with a draft. */
export function PaperChoice({ paper: { draft, drafts, choose } }: { paper: ReturnType<typeof usePaper> }) {
  if (drafts.length === 0) return null;
  return (
    <label className="flex items-center gap-2 whitespace-nowrap">
      Show it
      <select
        className="field min-w-0 max-w-[min(260px,calc(100vw-120px))]"
        value={draft?.id ?? ''}
        onChange={(event) => choose(event.target.value)}
      >
        <option value="">as it is</option>
        {drafts.map(({ id, name }) => (
          <option key={id} value={id}>
            with the draft: {name}
          </option>
        ))}
      </select>
    </label>
  );
}

/** Says that what is shown is on paper. */
export const OnPaper = ({ draft }: { draft: DraftView | null }) =>
  draft && (
    <p role="status" className="border-l-[3px] border-tile pl-3 mt-2">
      On paper, with “{draft.name}”. Nothing is applied.
    </p>
  );
