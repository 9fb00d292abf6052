import type { CrossingView } from '@underpass/core';
import { useNotice } from '../ui/Notice.js';
import type { CrossingAnswer } from './crossingAnswer.js';
import { crossingText } from './crossingText.js';

/** Copies a crossing as text for a message. */
export function useCopyText(): (answer: CrossingAnswer, view: CrossingView, tried: string | null) => void {
  const notice = useNotice();
  return (answer, view, tried) => {
    const text = crossingText(answer, view, tried, `${location.origin}/crossings/${encodeURIComponent(answer.id)}`);
    navigator.clipboard.writeText(text).then(
      () => notice({ text: 'The crossing is copied as text, for a message.' }),
      () => notice({ text: 'The browser does not let this page copy.' }),
    );
  };
}
