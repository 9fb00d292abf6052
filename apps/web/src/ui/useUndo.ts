import type { Applied } from '@underpass/contracts';
import { call } from '../api/client.js';
import { movedAt, resultsSoFar, useRefresh } from '../api/refresh.js';
import { forWhom } from './forWhom.js';
import { useNotice } from './Notice.js';

/** Takes a change back; where that cannot be, it says why. It is told at the foot of the page: the screen may be left by then. */
export function useUndo(): (changeId: string, told?: string) => void {
  const refresh = useRefresh();
  const notice = useNotice();
  return (changeId, told = 'Taken back.') => {
    const before = resultsSoFar();
    call<Applied>(`changes/${changeId}/undo`, 'POST')
      .then(({ version }) => {
        refresh(before);
        notice({ text: told, more: movedAt(version).then(forWhom) });
      })
      .catch((error: Error) => notice({ text: error.message }));
  };
}
