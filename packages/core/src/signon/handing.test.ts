import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { fillIn, handOn, isWritten, typedAgain, wordsOf, type Credential, type Handing, type HandsOn } from './index.js';

const words = wordsOf('otennant', 'Orla Tennant', 'sea');
const handing = (more: Partial<Handing> = {}): Handing => ({
  words,
  device: { has: 'secret', typed: true },
  gateway: { pattern: '{name}', form: undefined },
  broker: { pattern: '{name}', gets: 'what there is' },
  host: { pattern: '{name}', form: undefined, gets: 'what there is' },
  ...more,
});
const again = (more: Partial<Handing>) => typedAgain(handOn(handing(more))).map(({ step, because }) => [step, because]);
const ticket = { has: 'ticket' as const, typed: false };

describe('names as they are written', () => {
  test('words are filled in; what is empty is told', () => {
    expect(fillIn('{domain}\\{name}', words)).toEqual({ text: 'sea\\otennant', missing: [] });
    expect(fillIn('{first}.{last}@{domain}', words)).toEqual({ text: 'Orla.Tennant@sea', missing: [] });
    expect(fillIn('{domain}\\{name}', wordsOf('x', 'Odo', ''))).toEqual({ text: '\\x', missing: ['domain'] });
    expect(wordsOf('x', 'Odo', '')).toMatchObject({ first: 'Odo', last: '' });
    // a word that only objects have is none
    expect(fillIn('{constructor}', words).missing).toEqual(['constructor']);
  });
  test.each([
    ['otennant', 'bare'],
    ['sea\\otennant', 'domain before'],
    ['otennant@sea', 'domain behind'],
  ] as const)('%s is written %s, and in no other way', (text, form) => {
    for (const each of ['bare', 'domain before', 'domain behind'] as const)
      expect([each, isWritten(text, each)]).toEqual([each, each === form]);
  });
  test.each(['', '\\x', 'x@', 'a b', 'a\\b\\c', 'a@b@c'])('“%s” is written in none of them', (text) =>
    expect((['bare', 'domain before', 'domain behind'] as const).some((form) => isWritten(text, form))).toBe(false),
  );
});

describe('what is handed on', () => {
  test('typed once: nobody types again where everything is handed on', () => {
    expect(handOn(handing())).toEqual([
      { step: 'gateway', name: 'otennant', gets: 'secret', typed: true, because: null },
      { step: 'broker', name: 'otennant', gets: 'secret', typed: false, because: null },
      { step: 'host', name: 'otennant', gets: 'secret', typed: false, because: null },
    ]);
  });
  test('each link that is left out makes the person type there, and whoever typed has a secret from there on', () => {
    expect(again({ broker: { pattern: '{name}', gets: 'nothing' } })).toEqual([['broker', 'nothing is handed on']]);
    expect(again({ host: { pattern: '{name}', form: undefined, gets: 'nothing' } })).toEqual([['host', 'nothing is handed on']]);
    expect(
      again({
        device: ticket,
        broker: { pattern: '{name}', gets: 'nothing' },
        host: { pattern: '{name}', form: undefined, gets: 'secret' },
      }),
    ).toEqual([['broker', 'nothing is handed on']]);
  });
  test('a ticket can be had for a secret, and no secret for a ticket', () => {
    expect(again({ host: { pattern: '{name}', form: undefined, gets: 'ticket' } })).toEqual([]);
    expect(again({ device: ticket })).toEqual([]);
    expect(again({ device: ticket, host: { pattern: '{name}', form: undefined, gets: 'secret' } })).toEqual([
      ['host', 'a ticket, where a secret is wanted'],
    ]);
  });
  test('a name that is written otherwise than it is wanted, or lacks a part, makes the person type', () => {
    expect(again({ host: { pattern: '{name}', form: 'domain before', gets: 'what there is' } })).toEqual([
      ['host', 'the name is written otherwise'],
    ]);
    expect(again({ host: { pattern: '{domain}\\{name}', form: 'domain before', gets: 'what there is' } })).toEqual([]);
    expect(again({ words: wordsOf('x', 'X', ''), host: { pattern: '{domain}\\{name}', form: undefined, gets: 'what there is' } })).toEqual([
      ['host', 'a part of the name is missing'],
    ]);
    // who types at the gateway types what it takes; who does not is stopped there
    const wanting = { pattern: '{name}', form: 'domain behind' as const };
    expect(again({ gateway: wanting })).toEqual([]);
    expect(again({ gateway: wanting, device: ticket })).toEqual([['gateway', 'the name is written otherwise']]);
  });
  test('whatever is set: three steps; nobody is told the secret; handing on more never makes anybody type more', () => {
    const gets = fc.constantFrom<HandsOn>('what there is', 'secret', 'ticket', 'nothing');
    const form = fc.constantFrom(undefined, 'bare' as const, 'domain before' as const);
    const pattern = fc.constantFrom('{name}', '{domain}\\{name}', '{first}.{last}');
    const has = fc.constantFrom<Credential>('secret', 'ticket');
    fc.assert(
      fc.property(gets, gets, form, pattern, has, fc.boolean(), (broker, host, wants, text, holds, typed) => {
        const make = (b: HandsOn, h: HandsOn) =>
          handOn(
            handing({ device: { has: holds, typed }, broker: { pattern: text, gets: b }, host: { pattern: text, form: wants, gets: h } }),
          );
        const steps = make(broker, host);
        expect(steps.map(({ step }) => step)).toEqual(['gateway', 'broker', 'host']);
        expect(typedAgain(make('what there is', 'what there is')).length).toBeLessThanOrEqual(typedAgain(steps).length);
      }),
    );
  });
});
