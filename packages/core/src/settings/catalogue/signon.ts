import { oneOf, textOf } from './definition.js';

/** Words a pattern may hold, filled in for a person. */
export const nameWords = ['name', 'domain', 'first', 'last'] as const;
const shared = { words: nameWords, symptoms: ['types the password twice', 'asked again', 'wrong user name'] };

/** What is handed on from the device to the gateway, the broker and the host. */
export const signonSettings = {
  'signon.domain': textOf({
    label: 'Domain',
    does: 'What stands for {domain} in the patterns of names',
    words: [],
    default: '',
    source: 'our default: none',
    symptoms: ['wrong domain', 'asked again'],
  }),
  'signon.gatewayName': textOf({
    label: 'Name for the gateway',
    does: 'How a person’s name is written to the gateway: {name}, {domain}, {first}, {last} are filled in',
    default: '{name}',
    ...shared,
  }),
  'signon.brokerName': textOf({
    label: 'Name for the broker',
    does: 'How it is written from the gateway to the broker',
    default: '{name}',
    ...shared,
  }),
  'signon.hostName': textOf({
    label: 'Name for the host',
    does: 'How it is written from the broker to the host',
    default: '{name}',
    ...shared,
  }),
  'signon.brokerGets': oneOf({
    label: 'Handed to the broker',
    does: 'What goes on from the gateway: whatever it has, the secret alone, a ticket alone, or nothing',
    options: ['what there is', 'secret', 'ticket', 'nothing'],
    default: 'what there is',
    symptoms: shared.symptoms,
  }),
  'signon.hostGets': oneOf({
    label: 'Handed to the host',
    does: 'What goes on from the broker: whatever it has, the secret alone, a ticket alone, or nothing',
    options: ['what there is', 'secret', 'ticket', 'nothing'],
    default: 'what there is',
    symptoms: shared.symptoms,
  }),
};
