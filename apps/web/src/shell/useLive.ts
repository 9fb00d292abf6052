import { useQueryClient } from '@tanstack/react-query';
import type { Moved } from '@underpass/contracts';
import { useEffect } from 'react';
import { followResults, resultsTold } from '../api/refresh.js';
import { evaluating } from '../api/signals.js';
import type { LiveEvent } from './stage.js';
import { livesOn } from './stages.js';

const events: readonly LiveEvent[] = ['results', 'ended', 'check', 'job', 'sighting', 'boot'];

/** Keeps what is shown live: what the stages say goes old at an event is asked again. */
export function useLive(): void {
  const client = useQueryClient();
  useEffect(() => {
    followResults(livesOn('results'));
    const source = new EventSource('/api/events');
    for (const event of events)
      source.addEventListener(event, ({ data }: MessageEvent<string>) => {
        for (const key of livesOn(event)) void client.invalidateQueries({ queryKey: [key] });
        if (event !== 'results') return;
        evaluating.set(null);
        const { version, moved } = JSON.parse(data) as { version: number; moved: Moved | null };
        resultsTold(version, moved);
      });
    // what was told before the line broke off is not known
    source.addEventListener('open', () => evaluating.set(null));
    source.addEventListener('progress', ({ data }: MessageEvent<string>) =>
      evaluating.set(JSON.parse(data) as { done: number; total: number }),
    );
    return () => source.close();
  }, [client]);
}
