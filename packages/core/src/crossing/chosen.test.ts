import { expect, test } from '@jest/globals';
import type { Measurement } from '@underpass/contracts';
import { reached, small } from '../../test/small.js';
import { chooseEvidence } from '../evidence/index.js';
import { measuredFor, remembered, timedFor } from './chosen.js';

const { endpoint, location, gatewayRegion, person } = small();
const measurement = (more: object = {}): Measurement =>
  ({
    ...{ id: 'm1', at: '2026-11-25T09:00:00Z', by: 'Ann', method: 'field check', vantage: 'desk', endpoint: 'e1', location: 'hall' },
    ...{ target: 'near', partial: false, figures: reached, ...more },
  }) as Measurement;

test('what is worked out once is there afterwards, also where it came to nothing', () => {
  const map = new Map<string, number>();
  let made = 0;
  const make = () => (made++, 0);
  expect([remembered(map, 'a', make), remembered(map, 'a', make), remembered(map, 'b', make), made]).toEqual([0, 0, 0, 2]);
});

test('evidence is chosen once for a list, and anew for whoever it says something else to', () => {
  const measured = [measurement(), measurement({ id: 'm2', endpoint: 'e2', figures: { ...reached, upMbps: 5 } })];
  const of = (more: { endpoint?: object; location?: object; farEnd?: object; measured?: Measurement[] } = {}) => {
    const seat = {
      measured: more.measured ?? measured,
      endpoint: { ...endpoint, ...more.endpoint },
      location: (more.location ?? location) as typeof location,
    };
    const farEnd = (more.farEnd ?? gatewayRegion) as typeof gatewayRegion;
    const found = measuredFor(seat, farEnd);
    // whatever was asked before, it is what is chosen for just this
    expect(found).toEqual(chooseEvidence(seat.measured, seat.location, seat.endpoint, farEnd));
    return found;
  };
  const own = of();
  expect(of()).toBe(own);
  // what somebody types of their device later counts against what was measured on it
  const later = of({ endpoint: { screensAt: '2026-11-25T12:00:00Z' } });
  expect(later).not.toBe(own);
  expect(of({ endpoint: { screensAt: '2026-11-25T12:00:00Z' } })).toBe(later);
  expect(of({ endpoint: { screensAt: '2026-11-25T12:00:00Z', decodersAt: '2026-11-25T12:00:00Z' } })).not.toBe(later);
  // all on whom nothing was measured have the same, whatever is typed of theirs
  const other = of({ endpoint: { id: 'e7' } });
  expect(of({ endpoint: { id: 'e8', screensAt: '2026-11-25T12:00:00Z' } })).toBe(other);
  expect(other).not.toBe(own);
  expect(of({ endpoint: { id: 'e2' } }).upMbps?.value).toBe(5);
  // another far end, the same one elsewhere, another place, another list
  expect(of({ farEnd: { ...gatewayRegion, id: 'far' } })).not.toBe(own);
  const moved = of({ farEnd: { ...gatewayRegion, latitude: 10 } });
  expect(of({ farEnd: gatewayRegion })).not.toBe(moved);
  expect(of({ location: { ...location, ownLines: true } })).not.toBe(own);
  expect(of({ measured: [measured[0]!] })).not.toBe(own);
  expect(measuredFor({ measured: undefined, endpoint, location }, gatewayRegion)).toEqual({ rejected: [] });
});

test('sign-ins that were timed there, for who and what they were timed with', () => {
  const signon = measurement({ id: 's', person: person.id, figures: { signon: { password: 4 } } });
  const of = (measured: Measurement[] | undefined) => timedFor({ measured, endpoint, location }, person)?.value;
  expect([of(undefined), of([measurement()]), of([measurement(), signon])]).toEqual([undefined, undefined, { password: 4 }]);
});
