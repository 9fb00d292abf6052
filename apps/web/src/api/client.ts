import type { Problem } from '@underpass/contracts';

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

const offline: Problem = {
  type: 'about:blank',
  title: 'No answer',
  status: 0,
  detail: 'The server does not answer. Check your connection, then try again.',
};

/** One way to call the server: JSON both ways, problems as ApiError. */
export async function call<T>(path: string, method = 'GET', body?: unknown): Promise<T> {
  let response: Response;
  try {
    response = await fetch(`/api/${path}`, {
      method,
      headers: { ...(body === undefined ? {} : { 'content-type': 'application/json' }), 'x-underpass': '1' },
      ...(body === undefined ? {} : { body: JSON.stringify(body) }),
    });
  } catch {
    throw new ApiError(offline);
  }
  if (response.status === 204) return undefined as T;
  const content: unknown = await response.json().catch(() => null);
  if (!response.ok)
    throw new ApiError(
      (content as Problem | null) ?? {
        ...offline,
        status: response.status,
        title: 'Failed',
        detail: 'The server could not finish this. Try again.',
      },
    );
  return content as T;
}

export const query = (values: Record<string, string | number | undefined | null>): string => {
  const search = new URLSearchParams();
  for (const [key, value] of Object.entries(values))
    if (value !== undefined && value !== null && value !== '') search.set(key, String(value));
  const text = search.toString();
  return text ? `?${text}` : '';
};
