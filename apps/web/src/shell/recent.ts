import type { FoundObject } from '@underpass/contracts';

const key = 'underpass.found';
const most = 8;

/** What was found and opened lately on this browser, the last first. */
export function foundLately(): FoundObject[] {
  try {
    const kept = JSON.parse(localStorage.getItem(key) ?? '[]') as FoundObject[];
    return Array.isArray(kept) ? kept.filter(({ path, name }) => typeof path === 'string' && typeof name === 'string') : [];
  } catch {
    return [];
  }
}

export function keepFound(found: FoundObject): void {
  try {
    localStorage.setItem(key, JSON.stringify([found, ...foundLately().filter(({ path }) => path !== found.path)].slice(0, most)));
  } catch {
    // storage may be closed to us: nothing is remembered then
  }
}
