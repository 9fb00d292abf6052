import { describe, expect, test } from '@jest/globals';
import type { Measurement } from '@underpass/contracts';
import fc from 'fast-check';
import { chooseSignonTimes } from './index.js';

describe('timed steps of a sign-in', () => {
  const steps = ['list of resources', 'password', 'broker', 'profile attach'] as const;
  /** Steps that are the gateway’s or the hosts’: common practice, no source. */
  const everybodys = ['list of resources', 'broker'];
  const anyMeasurement = fc.record({
    endpoint: fc.constantFrom('E1', 'E2', undefined),
    person: fc.constantFrom('P1', 'P2', undefined),
    recorded: fc.boolean(),
    signon: fc.dictionary(fc.constantFrom(...steps), fc.integer({ min: 1, max: 90 })),
  });

  test('come from the endpoint before the person before the place, the newest of equals; read plainly', () => {
    fc.assert(
      fc.property(fc.array(anyMeasurement, { maxLength: 8 }), (given) => {
        const all = given.map(
          ({ endpoint, person, recorded, signon }, i) =>
            ({
              id: `m${i}`,
              at: `2026-06-0${i + 1}T08:00:00.000Z`,
              by: 'x',
              method: recorded ? 'recorded sign-in' : 'reported by a portal',
              vantage: 'desk',
              location: 'L',
              partial: false,
              figures: { signon },
              ...(endpoint ? { endpoint } : {}),
              ...(person ? { person } : {}),
            }) as unknown as Measurement,
        );
        const chosen = chooseSignonTimes(all, 'E1', 'P1');
        for (const step of steps) {
          const having = all.filter(({ figures }) => figures.signon?.[step] !== undefined);
          const best =
            having.filter(({ endpoint }) => endpoint === 'E1').at(-1) ??
            having.filter(({ endpoint, person }) => endpoint === undefined && person === 'P1').at(-1) ??
            (everybodys.includes(step) ? having.filter(({ method }) => method === 'recorded sign-in').at(-1) : undefined);
          expect(chosen?.value[step]).toBe(best?.figures.signon?.[step]);
        }
      }),
    );
  });
});
