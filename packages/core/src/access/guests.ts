import type { Person } from '@underpass/contracts';

/** Days before its end from which a guest's access is told as ending soon; common practice, no source. */
export const soonDays = 30;

/** How a guest’s access stands at an instant. */
export type GuestState = 'ended' | 'ending soon' | 'not accepted' | 'current' | 'not recorded';

/** First instant after the last day of access, ms since 1970. */
export const guestEndMs = (endsOn: string): number => Date.parse(`${endsOn}T00:00:00Z`) + 86_400_000;

/** How a guest stands at an instant; a guest without a record has nobody who answers for them. */
export function guestState({ guest }: Pick<Person, 'guest'>, atMs: number): GuestState {
  if (!guest) return 'not recorded';
  const endMs = guestEndMs(guest.endsOn);
  if (atMs >= endMs) return 'ended';
  if (guest.invitation !== 'accepted') return 'not accepted';
  return endMs - atMs <= soonDays * 86_400_000 ? 'ending soon' : 'current';
}
