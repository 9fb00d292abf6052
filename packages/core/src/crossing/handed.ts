import { followed, type SettingValues } from '../settings/index.js';
import { handOn, typedAgain, wordsOf, type HandedStep } from '../signon/index.js';
import type { CrossingFacts } from './facts.js';

/** The endpoint's own sign-in is taken on: only where it is one of ours. */
export const signsOnByItself = ({ endpoint }: CrossingFacts, s: SettingValues): boolean =>
  s['session.singleSignOn'] && endpoint.ownership === 'managed';

/** A card signs its person in: where there is a reader, and it may be used. */
export const tapsCard = ({ endpoint }: CrossingFacts, s: SettingValues): boolean =>
  s['session.tapCard'] && followed(s, 'session.tapCard', endpoint) && endpoint.peripherals.includes('card-reader');

/** Whether somebody types a password at the start. */
export const typesFirst = (facts: CrossingFacts, s: SettingValues): boolean =>
  !signsOnByItself(facts, s) && !tapsCard(facts, s) && !s['security.savedPasswords'];

const plain = new WeakMap<SettingValues, boolean>();
/** Settings by which everything is handed on, and each name is written bare. */
export function handsOnPlainly(s: SettingValues): boolean {
  let known = plain.get(s);
  if (known === undefined) {
    const names = [s['signon.gatewayName'], s['signon.brokerName'], s['signon.hostName']];
    known =
      names.every((name) => name === '{name}') && s['signon.brokerGets'] === 'what there is' && s['signon.hostGets'] === 'what there is';
    plain.set(s, known);
  }
  return known;
}
const nowhere: readonly HandedStep['step'][] = [];

/** Steps at which somebody types again; nowhere at once where everything is handed on, and nobody wants a name in a form of its own. */
export function typesAgainAt(facts: CrossingFacts, s: SettingValues): readonly HandedStep['step'][] {
  if (facts.gateway.nameForm === undefined && facts.pool.nameForm === undefined && handsOnPlainly(s)) return nowhere;
  return typedAgain(handedOf(facts, s)).map(({ step }) => step);
}

/** What reaches gateway, broker and host of a person's name and secret, by the settings in force; and where they type it again. */
export function handedOf(facts: CrossingFacts, s: SettingValues): HandedStep[] {
  const { person, gateway, pool } = facts;
  const typed = typesFirst(facts, s);
  const isTicket = signsOnByItself(facts, s) || tapsCard(facts, s);
  return handOn({
    words: wordsOf(person.id, person.name, s['signon.domain']),
    device: { has: isTicket ? 'ticket' : 'secret', typed },
    gateway: { pattern: s['signon.gatewayName'], form: gateway.nameForm },
    broker: { pattern: s['signon.brokerName'], gets: s['signon.brokerGets'] },
    host: { pattern: s['signon.hostName'], form: pool.nameForm, gets: s['signon.hostGets'] },
  });
}
