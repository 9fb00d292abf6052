import type { Problem } from '@underpass/contracts';
import { isIdle } from './activity.js';
import { askConfirmation, away, sessionEnds } from './signals.js';

/** A problem the server told, with the fields that are wrong. */
export class ApiError extends Error {
  constructor(readonly problem: Problem) {
    super(problem.detail);
  }
  get status(): number {
    return this.problem.status;
  }
}

/** Whether the last answer was that it is not there: what an earlier answer held is not shown any more. */
export const isGone = ({ error }: { error: Error | null }): boolean => error instanceof ApiError && error.status === 404;

/** Where something was not written because somebody else wrote it since it was seen, what stands now is asked for before that is told. */
export async function orLookAgain<T>(sent: Promise<T>, lookAgain: () => Promise<unknown>): Promise<T> {
  try {
    return await sent;
  } catch (error) {
    if (error instanceof ApiError && error.status === 409) await lookAgain();
    throw error;
  }
}

const offline: Problem = {
  type: 'about:blank',
  title: 'No answer',
  status: 0,
  detail: 'The server does not answer. Check your connection, then try again.',
};

/** Where a session may be missing without that being news. */
const signingIn = (path: string, method: string) => path === 'session' || (path === 'session/confirm' && method === 'POST');

async function send(path: string, method: string, body: unknown, headers: Record<string, string>): Promise<Response> {
  let response: Response;
  try {
    response = await fetch(`/api/${path}`, {
      method,
      headers: {
        ...(body === undefined ? {} : { 'content-type': body instanceof Blob ? 'application/octet-stream' : 'application/json' }),
        'x-underpass': '1',
        ...(isIdle() ? { 'x-idle': '1' } : {}),
        ...headers,
      },
      ...(body === undefined ? {} : { body: body instanceof Blob ? body : JSON.stringify(body) }),
    });
  } catch {
    throw new ApiError(offline);
  }
  if (response.ok) {
    away.set(null);
    return response;
  }
  const problem = ((await response.json().catch(() => null)) as Problem | null) ?? {
    ...offline,
    status: response.status,
    title: 'Failed',
    detail: 'The server could not finish this. Try again.',
  };
  if (problem.status === 503) away.set(problem.detail);
  if (problem.status === 401 && !signingIn(path, method)) sessionEnds.set(sessionEnds.get() + 1);
  if (problem.needs === 'confirmation' && (await askConfirmation())) return send(path, method, body, headers);
  throw new ApiError(problem);
}

/** One way to call the server: JSON both ways (or a piece of a file to it), problems as ApiError. What is weighty asks for the password again and goes on. */
export async function call<T>(path: string, method = 'GET', body?: unknown, headers: Record<string, string> = {}): Promise<T> {
  const response = await send(path, method, body, headers);
  return (response.status === 204 ? undefined : await response.json()) as T;
}

/** Fetches a file and hands it to the browser to keep. */
export async function download(path: string, name: string): Promise<void> {
  const response = await send(path, 'GET', undefined, {});
  const link = document.createElement('a');
  link.href = URL.createObjectURL(await response.blob());
  link.download = name;
  link.click();
  setTimeout(() => URL.revokeObjectURL(link.href), 60_000);
}

export const query = (values: Record<string, string | number | undefined | null>): string => {
  const search = new URLSearchParams();
  for (const [key, value] of Object.entries(values))
    if (value !== undefined && value !== null && value !== '') search.set(key, String(value));
  const text = search.toString();
  return text ? `?${text}` : '';
};
