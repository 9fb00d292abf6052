import { guestEndMs, soonDays } from '../access/index.js';
import { untouched, type Touch } from '../change/index.js';
import type { EstateModel } from '../estate/index.js';
import { certificateAheadDays } from './findings/gateway/certificateEndsSoon.js';
import { dayMs } from './ladder.js';

const aDayMs = 86_400_000;

/** An instant from which crossings come out otherwise although nobody changed anything. */
export interface Moment {
  atMs: number;
  touch: Touch;
}

/** The instants at which a certificate begins, is told as ending soon, on which day, and ends. */
function* ofCertificate({ notBefore, notAfter }: { notBefore: string; notAfter: string }): Generator<number> {
  yield dayMs(notBefore);
  const endMs = dayMs(notAfter) + aDayMs;
  // a whole day is left until its last millisecond is gone
  for (let days = certificateAheadDays + 1; days > 0; days--) yield endMs - days * aDayMs + 1;
  yield endMs;
}

/**
 * The next instant at which time alone changes what some crossings come to: a certificate that begins, nears its end or ends, a
 * guest's access that nears its end or ends. Null where there is none.
 * @param afterMs ms since 1970; the moment is later than this
 */
export function nextMoment(model: EstateModel, afterMs: number): Moment | null {
  let next: Moment | null = null;
  const consider = (atMs: number, mark: (touch: Touch) => void) => {
    if (atMs <= afterMs || (next && atMs > next.atMs)) return;
    if (!next || atMs < next.atMs) next = { atMs, touch: untouched() };
    mark(next.touch);
  };
  for (const { id, certificate } of model.gateways.values()) {
    if (!certificate) continue;
    const mark = (touch: Touch) => {
      for (const pool of model.pools.values())
        if (pool.gateway === id) for (const resource of model.resourcesOfPool.get(pool.id) ?? []) touch.resources.add(resource);
    };
    for (const atMs of ofCertificate(certificate)) consider(atMs, mark);
  }
  for (const { id, guest } of model.people.values()) {
    if (!guest) continue;
    const endMs = guestEndMs(guest.endsOn);
    for (const atMs of [endMs - soonDays * aDayMs, endMs]) consider(atMs, (touch) => touch.people.add(id));
  }
  return next;
}
