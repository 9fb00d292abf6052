import type { Wifi } from '@underpass/contracts';

/** How a network is secured, in a word. */
export const securityNames: Record<NonNullable<Wifi['security']>, string> = { WPA: 'WPA2', SAE: 'WPA3', WEP: 'WEP', nopass: 'no key' };

/** How a network is secured, in the words that routers and devices have for it; common practice, no source. */
export const securityWords: Record<NonNullable<Wifi['security']>, string> = {
  WPA: 'WPA2, also written WPA2-PSK, WPA2 Personal or AES',
  SAE: 'WPA3, also written WPA3-SAE or WPA3 Personal',
  WEP: 'WEP: old, and no protection any more',
  nopass: 'open: it asks for no key',
};

const signs: Readonly<Record<string, string>> = {
  ' ': 'a space',
  '-': 'dash',
  _: 'underscore',
  '.': 'dot',
  ',': 'comma',
  ':': 'colon',
  ';': 'semicolon',
  '!': 'exclamation mark',
  '?': 'question mark',
  '@': 'at',
  '#': 'hash',
  $: 'dollar',
  '%': 'percent',
  '&': 'and sign',
  '*': 'star',
  '+': 'plus',
  '=': 'equals',
  '/': 'slash',
  '\\': 'backslash',
  '|': 'upright bar',
  '(': 'bracket opens',
  ')': 'bracket closes',
  '[': 'square bracket opens',
  ']': 'square bracket closes',
  '{': 'curly bracket opens',
  '}': 'curly bracket closes',
  '<': 'less than',
  '>': 'greater than',
  '"': 'double quote',
  "'": 'single quote',
  '`': 'back quote',
  '^': 'caret',
  '~': 'tilde',
};
/** Letters and digits that are taken for each other when they are read. */
const mistaken: Readonly<Record<string, string>> = {
  '0': 'the digit nought',
  '1': 'the digit one',
  l: 'small L',
  I: 'capital i',
  O: 'capital o',
};

/**
 * A key as it is read to somebody by telephone, sign by sign.
 * @example spelled('Ab-1') is ['capital A', 'b', 'dash', 'the digit one']
 */
export const spelled = (text: string): string[] =>
  [...text].map((sign) => mistaken[sign] ?? signs[sign] ?? (/^\p{Lu}$/u.test(sign) ? `capital ${sign}` : sign));

/** What somebody does to join a network, a sentence a step, as it is read to them. */
export function joiningSteps({
  name,
  security,
  hidden,
}: {
  name: string;
  security: NonNullable<Wifi['security']>;
  hidden: boolean;
}): string[] {
  const key = security === 'nopass' ? [] : ['When it asks for the key, type it sign by sign. Capitals count.'];
  const find = hidden
    ? [
        `Choose “Other network” or “Add a network”: this one does not say its name.`,
        `Type the name “${name}”, exactly so.`,
        `Under security choose ${securityWords[security]}.`,
      ]
    : [`In the list choose “${name}”. It is written exactly so; another with nearly the same name is another network.`];
  return [
    'Open the settings of the device, and there Wi-Fi. Is it switched on?',
    ...find,
    ...key,
    'Press Connect, and wait half a minute.',
    'Is there a hook or the word “connected” beside the name? Then it is done. If it asks for the key again, the key was typed otherwise.',
  ];
}

/** The same on a thin client, where nothing is picked from a list and the network comes up after a restart (common practice, no source). */
export function joiningByHand({ name, security }: { name: string; security: NonNullable<Wifi['security']> }): string[] {
  return [
    'Open the settings of the device before anybody signs in, and there the network.',
    `Type the name “${name}”, exactly so: capitals, dashes and spaces count.`,
    `Choose the security: ${securityWords[security]}.`,
    ...(security === 'nopass' ? [] : ['Type the key sign by sign, and let it be shown to compare.']),
    'Save, and restart the device: the network comes up after that.',
  ];
}
