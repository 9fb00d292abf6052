import type { Change, DraftView } from '@underpass/contracts';
import { noChange } from '@underpass/core';
import { useCallback, useEffect, useRef, useState } from 'react';
import { useSearchParams } from 'react-router';
import { useDrafts } from '../api/drafts.js';
import { useNotice } from '../ui/Notice.js';
import { changeIn } from './changeLink.js';

interface Arriving {
  change: Change;
  /** What it is called, where it has a name. */
  name: string | null;
  /** What stands otherwise now than when the draft that is tried was kept. */
  conflicts: DraftView['conflicts'];
  tryChange: (change: Change, name: string | null) => void;
}

/** The change that is tried: chosen on the page, or come along in the address, as a draft or as the change itself. */
export function useArriving(): Arriving {
  const [search, setSearch] = useSearchParams();
  const [change, setChange] = useState<Change>(noChange);
  const [name, setName] = useState<string | null>(null);
  const notice = useNotice();
  const tryChange = useCallback((next: Change, text: string | null) => {
    setChange(next);
    setName(text);
  }, []);
  useEffect(() => {
    // of a link somebody sent, or of a finding on the Board
    const sent = search.get('change');
    if (!sent) return;
    const named = search.get('named');
    changeIn(sent).then(
      (found) => {
        if (found) tryChange(found, named);
        else notice({ text: 'This link holds no change that this version knows. The crossing is shown as it is.' });
      },
      (error: Error) => notice({ text: `The change in this link could not be read: ${error.message}` }),
    );
    setSearch(
      (old) => {
        const next = new URLSearchParams(old);
        next.delete('change');
        next.delete('named');
        return next;
      },
      { replace: true },
    );
  }, [search, setSearch, notice, tryChange]);
  const asked = search.get('draft');
  const drafts = useDrafts(asked !== null);
  const draft = drafts.data?.find(({ id }) => id === asked);
  const taken = useRef<string | null>(null);
  useEffect(() => {
    // once: what is chosen on the page afterwards stays when the draft is told anew
    if (!draft || taken.current === draft.id) return;
    taken.current = draft.id;
    tryChange(draft.change, draft.name);
  }, [draft, tryChange]);
  return { change, name, conflicts: draft?.conflicts ?? [], tryChange };
}
