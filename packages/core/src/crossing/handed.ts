import { followed, type SettingValues } from '../settings/index.js';
import { handOn, wordsOf, type HandedStep } from '../signon/index.js';
import type { CrossingFacts } from './facts.js';

/** The endpoint's own sign-in is taken on: only where it is one of ours. */
export const signsOnByItself = ({ endpoint }: CrossingFacts, s: SettingValues): boolean =>
  s['session.singleSignOn'] && endpoint.ownership === 'managed';

/** A card signs its person in: where there is a reader, and it may be used. */
export const tapsCard = ({ endpoint }: CrossingFacts, s: SettingValues): boolean =>
  followed(s, 'session.tapCard', endpoint) && endpoint.peripherals.includes('card-reader');

/** Whether somebody types a password at the start. */
export const typesFirst = (facts: CrossingFacts, s: SettingValues): boolean =>
  !signsOnByItself(facts, s) && !tapsCard(facts, s) && !s['security.savedPasswords'];

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
