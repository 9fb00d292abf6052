import { useQuery, useQueryClient } from '@tanstack/react-query';
import type { Change, DraftView } from '@underpass/contracts';
import { useNotice } from '../ui/Notice.js';
import { call, query } from './client.js';

const queryKey = ['drafts'];
/** The longest name a draft may have. */
const longestName = 120;

export const useDrafts = (enabled = true) => useQuery({ queryKey, queryFn: () => call<DraftView[]>('drafts'), enabled });

/** Keeps and drops drafts; whoever shows them follows. */
export function useKeepDraft() {
  const client = useQueryClient();
  const notice = useNotice();
  const refresh = () => client.invalidateQueries({ queryKey });
  const keep = async (name: string, content: { crossing?: string; change: Change }): Promise<DraftView> => {
    const kept = await call<DraftView>('drafts', 'POST', { name: name.slice(0, longestName), ...content });
    await refresh();
    return kept;
  };
  /** Tells at the foot of the page why something could not be done. */
  const tell = (error: unknown) => notice({ text: error instanceof Error ? error.message : 'That failed. Try again.' });
  return {
    keep,
    /**
     * Drops a draft as it was seen; what somebody wrote into it since stays. It can be kept again.
     * @param quietly where it is dropped because it was applied
     * @returns whether it is dropped
     */
    drop: async (draft: DraftView, quietly = false): Promise<boolean> => {
      const { id, name, change, crossing, updatedAt: seen } = draft;
      try {
        await call(`drafts/${id}${query({ seen })}`, 'DELETE');
      } catch (error) {
        await refresh();
        tell(error);
        return false;
      }
      await refresh();
      const again = () => void keep(name, { change, ...(crossing === null ? {} : { crossing }) }).catch(tell);
      if (!quietly) notice({ text: `Dropped: ${name}.`, action: { label: 'Keep it again', run: again } });
      return true;
    },
  };
}
