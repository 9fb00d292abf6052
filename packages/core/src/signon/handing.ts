import type { NameForm } from '@underpass/contracts';

/** What goes from one step of the sign-on to the next: nothing, what somebody typed, or a ticket that stands for it. */
export type Credential = 'nothing' | 'secret' | 'ticket';
/** What a step hands on, by its setting. */
export type HandsOn = 'what there is' | 'secret' | 'ticket' | 'nothing';

/** A person's words, by which patterns are filled in. */
export interface NameWords {
  name: string;
  domain: string;
  first: string;
  last: string;
}
/** The values on the way from the device to the host. */
export interface Handing {
  words: NameWords;
  /** What the device has for the gateway; `typed` where somebody types it there. */
  device: { has: Credential; typed: boolean };
  gateway: { pattern: string; form: NameForm | undefined };
  broker: { pattern: string; gets: HandsOn };
  host: { pattern: string; form: NameForm | undefined; gets: HandsOn };
}

/** Why somebody types again at a step. */
export type TypedBecause =
  | 'nothing is handed on'
  | 'a ticket, where a secret is wanted'
  | 'a part of the name is missing'
  | 'the name is written otherwise';
/** One step with what reaches it. */
export interface HandedStep {
  step: 'gateway' | 'broker' | 'host';
  /** The name as it is written to this step. */
  name: string;
  gets: Credential;
  /** Somebody types here. */
  typed: boolean;
  /** Why somebody types here who has signed in before on this way; null for the first time. */
  because: TypedBecause | null;
}

/** The words of a person's name, as patterns take them. @param name as it is spoken, such as "Orla Tennant" */
export function wordsOf(id: string, name: string, domain: string): NameWords {
  const parts = name.trim().split(/\s+/);
  return { name: id, domain, first: parts[0] ?? '', last: parts.length > 1 ? (parts.at(-1) as string) : '' };
}

/** A pattern with its words filled in; words that are empty are told. @example ("{domain}\\{name}", …) is "sea\\otennant" */
export function fillIn(pattern: string, words: NameWords): { text: string; missing: string[] } {
  const missing: string[] = [];
  const text = pattern.replace(/\{(\w+)\}/g, (_, word: string) => {
    const value = Object.hasOwn(words, word) ? words[word as keyof NameWords] : '';
    if (value === '') missing.push(word);
    return value;
  });
  return { text, missing };
}

/** Whether a name is written in a form: bare, a domain and a backslash before it, or an at sign and a domain behind it. */
export function isWritten(text: string, form: NameForm): boolean {
  switch (form) {
    case 'bare':
      return /^[^\\@\s]+$/.test(text);
    case 'domain before':
      return /^[^\\@\s]+\\[^\\@\s]+$/.test(text);
    case 'domain behind':
      return /^[^\\@\s]+@[^\\@\s]+$/.test(text);
  }
}

/** What is handed on of what a step has: a ticket can be had for a secret, and no secret for a ticket. */
function handed(has: Credential, on: HandsOn): { gets: Credential; because: TypedBecause | null } {
  if (has === 'nothing' || on === 'nothing') return { gets: 'nothing', because: 'nothing is handed on' };
  if (on === 'ticket') return { gets: 'ticket', because: null };
  if (on === 'secret' && has === 'ticket') return { gets: 'nothing', because: 'a ticket, where a secret is wanted' };
  return { gets: on === 'secret' ? 'secret' : has, because: null };
}

/** What is wrong with a name that nobody typed. */
function faultOfName(pattern: string, words: NameWords, form: NameForm | undefined): { name: string; because: TypedBecause | null } {
  const { text, missing } = fillIn(pattern, words);
  if (missing.length > 0 || text === '') return { name: text, because: 'a part of the name is missing' };
  return { name: text, because: form && !isWritten(text, form) ? 'the name is written otherwise' : null };
}

/** The values as they reach gateway, broker and host, and where somebody has to type them. Whoever types has a secret from there on. */
export function handOn({ words, device, gateway, broker, host }: Handing): HandedStep[] {
  const steps: HandedStep[] = [];
  let has: Credential = device.has;
  const first = faultOfName(gateway.pattern, words, gateway.form);
  const typedAtGateway = device.typed || first.because !== null;
  if (typedAtGateway) has = 'secret';
  steps.push({ step: 'gateway', name: first.name, gets: has, typed: typedAtGateway, because: device.typed ? null : first.because });
  for (const [step, { pattern, gets }, form] of [
    ['broker', broker, undefined],
    ['host', host, host.form],
  ] as const) {
    const value = handed(has, gets);
    const name = faultOfName(pattern, words, form);
    const because = value.because ?? name.because;
    has = because ? 'secret' : value.gets;
    steps.push({ step, name: name.name, gets: because ? 'nothing' : value.gets, typed: because !== null, because });
  }
  return steps;
}

/** Times that somebody types beyond the first. */
export const typedAgain = (steps: readonly HandedStep[]): HandedStep[] => steps.filter(({ because }) => because !== null);
