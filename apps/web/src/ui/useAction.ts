import { useState } from 'react';
import { ApiError } from '../api/client.js';
import { movedAt, resultsSoFar, useRefresh } from '../api/refresh.js';
import { forWhom } from './forWhom.js';
import { useNotice } from './Notice.js';
import { useUndo } from './useUndo.js';

/** What is told when something is done, and how it is taken back. */
interface Done {
  text: string;
  /** The change it was: it is offered to take it back, and whose verdict it made another is told as soon as that is known. */
  applied?: { changeId: string; version: number | string };
  /** Told when it was taken back. */
  takenBack?: string;
  action?: { label: string; run: () => void };
}

interface Action {
  busy: boolean;
  /** Why the last one could not be done, to be shown beside what was pressed. */
  fault: string | null;
  /** The same by field, where the server named fields. */
  faults: Readonly<Record<string, string>>;
  /** Says beforehand why it cannot be done. */
  refuse: (fault: string | null, faults?: Record<string, string>) => void;
  /**
   * Does what somebody pressed, one at a time: what is shown is asked again afterwards, and what was done is told.
   * @returns whether it was done
   */
  run: (work: () => Promise<Done | void>) => Promise<boolean>;
}

/** Fields that a problem names, each with what is wrong. */
const fieldsOf = (error: unknown): Record<string, string> =>
  Object.fromEntries(((error instanceof ApiError && error.problem.fields) || []).map(({ field, problem }) => [field, problem]));

/**
 * The one way in which a screen changes something: busy, fault, what is told, and taking it back.
 * @param faults where a fault is told: `beside` what was pressed, by the caller; or at the `foot` of the page
 */
export function useAction(where: 'beside' | 'foot' = 'beside'): Action {
  const notice = useNotice();
  const undo = useUndo();
  const refresh = useRefresh();
  const [busy, setBusy] = useState(false);
  const [fault, setFault] = useState<string | null>(null);
  const [faults, setFaults] = useState<Record<string, string>>({});
  const refuse = (text: string | null, fields: Record<string, string> = {}) => {
    setFault(text);
    setFaults(fields);
  };
  const run: Action['run'] = async (work) => {
    setBusy(true);
    refuse(null);
    const before = resultsSoFar();
    try {
      const done = await work();
      refresh(before);
      if (done) {
        const { applied, takenBack, ...told } = done;
        const more = applied && {
          more: movedAt(Number(applied.version)).then(forWhom),
          action: { label: 'Take it back', run: () => undo(applied.changeId, takenBack) },
        };
        notice({ ...told, ...more });
      }
      return true;
    } catch (error) {
      const text = error instanceof Error ? error.message : 'That failed. Try again.';
      if (where === 'foot') notice({ text });
      else refuse(text, fieldsOf(error));
      return false;
    } finally {
      setBusy(false);
    }
  };
  return { busy, fault, faults, refuse, run };
}
