import { useQueryClient } from '@tanstack/react-query';
import { call } from '../api/client.js';
import { useNotice } from './Notice.js';

/** Takes a change back; where that cannot be, it says why. */
export function useUndo(): (changeId: string, told?: string) => void {
  const client = useQueryClient();
  const notice = useNotice();
  return (changeId, told) =>
    void call(`changes/${changeId}/undo`, 'POST')
      .then(() => client.invalidateQueries())
      .then(() => told && notice({ text: told }))
      .catch((error: Error) => notice({ text: error.message }));
}
