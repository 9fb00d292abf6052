import type { Change } from '@underpass/contracts';

/** Addresses may be longer, but not everything that hands them on takes more. */
const longest = 6000;

/** Where a crossing is with a change to be tried there; null where the change is too large for an address. */
export function pathTo(crossing: string, change: Change, name: string): string | null {
  const bytes = new TextEncoder().encode(JSON.stringify(change));
  const text = btoa(String.fromCharCode(...bytes.slice(0, longest)))
    .replaceAll('+', '-')
    .replaceAll('/', '_')
    .replaceAll('=', '');
  if (bytes.length > longest || text.length > longest) return null;
  return `/crossings/${encodeURIComponent(crossing)}?change=${text}&named=${encodeURIComponent(name)}`;
}

/** The change in an address; null where it holds none that this version knows. Whether it fits the estate is seen when it is tried. */
export async function changeIn(text: string): Promise<Change | null> {
  // only whoever follows a link needs what tells a good one
  const { Change } = await import('@underpass/contracts');
  try {
    const bytes = Uint8Array.from(atob(text.replaceAll('-', '+').replaceAll('_', '/')), (char) => char.charCodeAt(0));
    return Change.safeParse(JSON.parse(new TextDecoder().decode(bytes))).data ?? null;
  } catch {
    return null;
  }
}
