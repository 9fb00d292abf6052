import { useQuery, useQueryClient } from '@tanstack/react-query';
import type { Change, DraftView } from '@underpass/contracts';
import { useState } from 'react';
import { ApiError, call } from '../api/client.js';
import { useKeepDraft } from '../api/drafts.js';
import { settingsQueries } from './queries.js';

/** A draft that is worked on: kept on the server with every edit, so that its address is all there is to share. */
export function useDraft(id: string | null, onMade: (id: string | null) => void) {
  const client = useQueryClient();
  const { keep, drop } = useKeepDraft();
  const asked = useQuery(settingsQueries.draft(id ?? ''));
  const [busy, setBusy] = useState(false);
  const [fault, setFault] = useState<string | null>(null);
  const isGone = asked.error instanceof ApiError && asked.error.status === 404;
  const draft = id && !isGone ? (asked.data ?? null) : null;
  const set = (fresh: DraftView) => {
    client.setQueryData(settingsQueries.draft(fresh.id).queryKey, fresh);
    return client.invalidateQueries({ queryKey: ['drafts'], exact: true });
  };
  const guarded = async (work: () => Promise<unknown>): Promise<boolean> => {
    setBusy(true);
    setFault(null);
    try {
      await work();
      return true;
    } catch (error) {
      setFault(error instanceof Error ? error.message : 'That failed. Try again.');
      // what somebody else wrote meanwhile is shown
      if (error instanceof ApiError && error.status === 409) await asked.refetch();
      return false;
    } finally {
      setBusy(false);
    }
  };
  return {
    draft,
    asked,
    isGone,
    busy,
    fault,
    /** Writes the draft, or begins one by a name. */
    write: (change: Change, name: string) =>
      guarded(async () => {
        if (change.patches.length + change.hypotheses.length === 0) {
          if (!draft || (await drop(draft))) onMade(null);
        } else if (draft) await set(await call<DraftView>(`drafts/${draft.id}`, 'PUT', { change, seen: draft.updatedAt }));
        else onMade((await keep(name, { change })).id);
      }),
    rename: (name: string) =>
      guarded(async () => {
        if (draft) await set(await call<DraftView>(`drafts/${draft.id}`, 'PUT', { name, seen: draft.updatedAt }));
      }),
    refresh: () =>
      guarded(async () => {
        if (draft) await set(await call<DraftView>(`drafts/${draft.id}/refresh`, 'POST', { seen: draft.updatedAt }));
      }),
    drop: () =>
      guarded(async () => {
        if (!draft || (await drop(draft))) onMade(null);
      }),
  };
}
