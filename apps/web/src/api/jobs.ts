import { useQuery } from '@tanstack/react-query';
import type { JobStarted, JobView } from '@underpass/contracts';
import { useEffect, useState } from 'react';
import { call } from './client.js';

const isOpen = ({ state }: JobView): boolean => state === 'waiting' || state === 'running';

/** Long work of everybody that waits or runs, as it goes on. */
export const useJobs = () =>
  useQuery({
    queryKey: ['jobs'],
    queryFn: () => call<JobView[]>('jobs'),
    // progress is told as it comes; this is for what was missed
    refetchInterval: ({ state }) => (state.data?.some(isOpen) ? 5000 : false),
  });

export const cancelJob = (id: string): Promise<JobView> => call<JobView>(`jobs/${id}/cancel`, 'POST');

/** One piece of long work that is followed: as it stands while it goes on, and once it ended. */
export function useJob(id: string | null): { job: JobView | null; ended: JobView | null; error: Error | null } {
  const { data, error } = useQuery({
    queryKey: ['jobs', id],
    queryFn: () => call<JobView>(`jobs/${id}`),
    enabled: id !== null,
    refetchInterval: ({ state }) => (!state.data || isOpen(state.data) ? 700 : false),
  });
  const open = data !== undefined && isOpen(data);
  return { job: open ? data : null, ended: data && !open ? data : null, error };
}

interface Long<T> {
  data: T | null;
  /** The work that is waited for, where it takes long. */
  job: JobView | null;
  error: Error | null;
  again: () => void;
}

/**
 * An answer that may take long: asked for once, and where it becomes work of its own, that is followed to its end. Whoever leaves
 * before calls it off.
 */
export function useLong<T>(path: string, body: object): Long<T> {
  const text = JSON.stringify(body);
  const [round, setRound] = useState(0);
  const asked = useQuery({
    queryKey: ['long', path, text, round],
    queryFn: () => call<T | JobStarted>(path, 'POST', JSON.parse(text)),
    staleTime: 0,
    gcTime: 0,
    retry: false,
  });
  const started = asked.data && typeof asked.data === 'object' && 'job' in asked.data ? asked.data.job : null;
  const id = started?.id;
  const { job, ended, error } = useJob(id ?? null);
  useEffect(() => {
    if (id === undefined) return undefined;
    return () => {
      cancelJob(id).catch(() => undefined);
    };
  }, [id]);
  const now = ended ?? job ?? started;
  const fault = now && (now.state === 'failed' || now.state === 'cancelled') ? new Error(now.message ?? 'It was called off.') : null;
  return {
    data: started ? (now?.state === 'done' ? (now.result as T) : null) : ((asked.data as T | undefined) ?? null),
    job: now && isOpen(now) ? now : null,
    error: asked.error ?? error ?? fault,
    again: () => setRound((n) => n + 1),
  };
}
