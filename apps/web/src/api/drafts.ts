import { useQuery, useQueryClient } from '@tanstack/react-query';
import type { Change, DraftView } from '@underpass/contracts';
import { call } from './client.js';

const queryKey = ['drafts'];
/** The longest name a draft may have. */
const longestName = 120;

export const useDrafts = (enabled = true) => useQuery({ queryKey, queryFn: () => call<DraftView[]>('drafts'), enabled });

/** Keeps and drops drafts; whoever shows them follows. */
export function useKeepDraft() {
  const client = useQueryClient();
  const refresh = () => client.invalidateQueries({ queryKey });
  return {
    keep: async (name: string, content: { crossing?: string; change: Change }): Promise<string> => {
      const { id } = await call<{ id: string }>('drafts', 'POST', { name: name.slice(0, longestName), ...content });
      await refresh();
      return id;
    },
    drop: async (id: string): Promise<void> => {
      await call(`drafts/${id}`, 'DELETE');
      await refresh();
    },
  };
}
