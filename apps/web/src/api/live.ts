import { useQueryClient } from '@tanstack/react-query';
import { useEffect } from 'react';

/** Keeps what is shown live: results for a new version and the progress of field checks arrive as server-sent events. */
export function useLive(): void {
  const client = useQueryClient();
  useEffect(() => {
    const events = new EventSource('/api/events');
    events.addEventListener('results', () => {
      for (const key of ['board', 'crossings', 'crossing', 'history', 'changes', 'estate', 'access', 'signon'])
        void client.invalidateQueries({ queryKey: [key] });
    });
    events.addEventListener('ended', () => void client.invalidateQueries({ queryKey: ['session'] }));
    events.addEventListener('check', () => void client.invalidateQueries({ queryKey: ['check-links'] }));
    events.addEventListener('job', () => void client.invalidateQueries({ queryKey: ['jobs'] }));
    events.addEventListener('sighting', () => void client.invalidateQueries({ queryKey: ['access'] }));
    return () => events.close();
  }, [client]);
}
