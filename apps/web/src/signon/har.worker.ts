import { parseHar, type SignonRule } from '@underpass/contracts';
import { readHar, type HarReading } from '@underpass/core';

export interface HarTask {
  file: File;
  rules: readonly SignonRule[];
}
export type HarAnswer = { reading: HarReading } | { problem: string };

/** Reads a recorded sign-in away from the page. The recording stays in this browser: only what is returned leaves the worker. */
addEventListener('message', (event: MessageEvent<HarTask>) => {
  void event.data.file.text().then(
    (text) => {
      const parsed = parseHar(text);
      postMessage('problem' in parsed ? parsed : { reading: readHar(parsed.har, event.data.rules) });
    },
    () => postMessage({ problem: 'cannot be read. Choose it again' }),
  );
});
