/** What is typed and not saved is kept in the browser's tab, so that it is there again after a reload. */
const prefix = 'underpass.typed.';

export function keepTyped(key: string, value: unknown): void {
  try {
    if (value === null) sessionStorage.removeItem(prefix + key);
    else sessionStorage.setItem(prefix + key, JSON.stringify(value));
  } catch {
    // storage may be closed to us or full; what is typed is then on the page alone
  }
}

export function typedBefore<T>(key: string): T | null {
  try {
    return JSON.parse(sessionStorage.getItem(prefix + key) ?? 'null') as T | null;
  } catch {
    return null;
  }
}

/** Whoever signs out leaves nothing typed behind. */
export function forgetTyped(): void {
  try {
    for (const key of Object.keys(sessionStorage)) if (key.startsWith(prefix)) sessionStorage.removeItem(key);
  } catch {
    // nothing was kept then
  }
}
