import { call } from '../api/client.js';
import { resultsSoFar, useRefresh } from '../api/refresh.js';
import { useNotice } from './Notice.js';

/** Takes a change back; where that cannot be, it says why. It is told at the foot of the page: the screen may be left by then. */
export function useUndo(): (changeId: string, told?: string) => void {
  const refresh = useRefresh();
  const notice = useNotice();
  return (changeId, told) => {
    const before = resultsSoFar();
    call(`changes/${changeId}/undo`, 'POST')
      .then(() => {
        refresh(before);
        if (told) notice({ text: told });
      })
      .catch((error: Error) => notice({ text: error.message }));
  };
}
