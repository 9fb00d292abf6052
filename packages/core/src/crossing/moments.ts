import { guestEndMs, soonDays } from '../access/index.js';
import { untouched, type Touch } from '../change/index.js';
import type { EstateModel } from '../estate/index.js';
import { certificateAheadDays } from './findings/gateway/certificateEndsSoon.js';
import { assumedOf } from '../assumed/index.js';
import { weightStepsOn } from '../evidence/index.js';
import { dayMs } from './ladder.js';

const aDayMs = 86_400_000;

/** An instant from which crossings come out otherwise although nobody changed anything. */
export interface Moment {
  atMs: number;
  readonly touch: Touch;
}

/** The instants at which a certificate begins, is told as ending soon, on which day, and ends. */
function* ofCertificate({ notBefore, notAfter }: { notBefore: string; notAfter: string }): Generator<number> {
  yield dayMs(notBefore);
  const endMs = dayMs(notAfter) + aDayMs;
  // a whole day is left until its last millisecond is gone
  for (let days = certificateAheadDays + 1; days > 0; days--) yield endMs - days * aDayMs + 1;
  yield endMs;
}

/** What was measured so long ago that it weighs less from this midnight on, UTC. */
function touchAged(model: EstateModel, midnightMs: number, touch: Touch): void {
  const rule = assumedOf(model.organisation).evidence;
  for (const [location, measurements] of model.measurementsAt) {
    const ownLines = model.locations.get(location)?.ownLines;
    for (const { at, endpoint } of measurements)
      if (weightStepsOn(at, midnightMs, rule)) {
        if (!ownLines) touch.locations.add(location);
        else if (endpoint) touch.endpoints.add(endpoint);
      }
  }
}

/**
 * The next instant at which time alone changes what some crossings come to: a certificate that begins, nears its end or ends, a
 * guest's access that nears its end or ends, the midnight (UTC) after which measurements weigh less. Null where there is none.
 * @param afterMs ms since 1970; the moment is later than this
 */
export function nextMoment(model: EstateModel, afterMs: number): Moment | null {
  let next: { atMs: number; marks: ((touch: Touch) => void)[] } | null = null;
  const consider = (atMs: number, mark: (touch: Touch) => void) => {
    if (atMs <= afterMs || (next && atMs > next.atMs)) return;
    if (!next || atMs < next.atMs) next = { atMs, marks: [] };
    next.marks.push(mark);
  };
  for (const { id, certificate } of model.gateways.values()) {
    if (!certificate) continue;
    const mark = (touch: Touch) => {
      for (const pool of model.pools.values())
        if (pool.gateway === id) for (const resource of model.resourcesOfPool.get(pool.id) ?? []) touch.resources.add(resource);
    };
    for (const atMs of ofCertificate(certificate)) consider(atMs, mark);
  }
  for (const id of model.guestIds()) {
    const guest = model.people.get(id)?.guest;
    if (!guest) continue;
    const endMs = guestEndMs(guest.endsOn);
    for (const atMs of [endMs - soonDays * aDayMs, endMs]) consider(atMs, (touch) => touch.people.add(id));
  }
  if (model.measurementsAt.size > 0) {
    const midnightMs = (Math.floor(afterMs / aDayMs) + 1) * aDayMs;
    consider(midnightMs, (touch) => touchAged(model, midnightMs, touch));
  }
  return next && momentOf(next);
}

/** What it touches is looked up once it is there, and not after every change that comes before. */
function momentOf({ atMs, marks }: { atMs: number; marks: readonly ((touch: Touch) => void)[] }): Moment {
  let known: Touch | null = null;
  return {
    atMs,
    get touch() {
      if (!known) {
        known = untouched();
        for (const mark of marks) mark(known);
      }
      return known;
    },
  };
}
