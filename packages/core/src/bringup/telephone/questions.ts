import { bootCauses, type BootCause } from '../boot/index.js';

/** A question that somebody at a device can answer, what may be answered, and what each cause would let them answer. */
export interface TelephoneQuestion {
  id: string;
  /** As it is read to them. */
  ask: string;
  answers: readonly { id: string; text: string }[];
  /** Answers that are possible with a cause; a cause that is not named allows any. */
  with: Partial<Record<BootCause, readonly string[]>>;
}

const codes = Object.keys(bootCauses) as BootCause[];
/** The same answers for several causes. */
const all = (causes: readonly BootCause[], ...answers: string[]): Partial<Record<BootCause, readonly string[]>> =>
  Object.fromEntries(causes.map((code) => [code, answers]));
const of = (...steps: string[]): BootCause[] => codes.filter((code) => steps.includes(bootCauses[code].step));
const wifi = codes.filter((code) => code.startsWith('wifi'));
const afterWifi = codes.filter((code) => bootCauses[code].step !== 'link up');
const screens = [...new Set(codes.map((code) => bootCauses[code].shows))];
const looksEmpty: BootCause[] = [
  'option missing',
  'option for another class',
  'option under another number',
  'class not described',
  'option empty',
];
const servers: BootCause[] = ['server unknown', 'server misspelt', 'server on another port', 'server silent'];
const lines: BootCause[] = ['line without equals', 'line without key', 'section not closed'];

/**
 * What can be asked at a device. Which cause lets which answer be given is common practice, no source; the words of the screen are those of our
 * simulated device. Of two questions that tell as much the earlier one is asked: what is seen comes before what has to be looked up.
 */
export const telephoneQuestions: readonly TelephoneQuestion[] = [
  {
    id: 'screen',
    ask: 'What does the screen say?',
    answers: [
      ...screens.map((text) => ({ id: text, text })),
      { id: 'dark', text: 'It stays dark' },
      { id: 'sign-in', text: 'It asks me to sign in' },
    ],
    with: Object.fromEntries(codes.map((code) => [code, [bootCauses[code].shows]])),
  },
  {
    id: 'cable',
    ask: 'Does a network cable go from the device to the wall or the router?',
    answers: [
      { id: 'yes', text: 'Yes' },
      { id: 'no', text: 'No, it is to join by Wi-Fi' },
      { id: 'none', text: 'There is none, and no Wi-Fi either' },
    ],
    with: { ...all(wifi, 'no'), ...all(afterWifi, 'yes', 'no'), ...all(['cable out'], 'yes', 'none') },
  },
  {
    id: 'light',
    ask: 'Is there a small light beside the socket of the network cable?',
    answers: [
      { id: 'yes', text: 'Yes, it is lit or blinks' },
      { id: 'no', text: 'No light' },
      { id: 'no cable', text: 'There is no cable' },
    ],
    with: { ...all(wifi, 'no cable'), ...all(afterWifi, 'yes', 'no cable'), ...all(['cable out'], 'no') },
  },
  {
    id: 'beside',
    ask: 'Do other devices like it, in the same place, start?',
    answers: [
      { id: 'all', text: 'Yes, when they are switched on now' },
      { id: 'long', text: 'Only those that have been on for long' },
      { id: 'none', text: 'No, none' },
    ],
    with: {
      ...all(['cable out', ...wifi], 'all'),
      ...all(['addresses used up'], 'long'),
      ...all(['no scope', 'range unreadable'], 'none', 'long'),
      ...all([...of('options found'), ...servers], 'none', 'long'),
      ...all(['certificate ended', 'certificate not yet', 'certificate for another name', 'certificate not trusted'], 'none'),
      ...all(['clock wrong', 'firmware for another processor'], 'all', 'long'),
    },
  },
  {
    id: 'places',
    ask: 'Do devices at other places start?',
    answers: [
      { id: 'yes', text: 'Yes' },
      { id: 'no', text: 'No, none does' },
    ],
    with: {
      ...all([...of('link up', 'DHCP'), 'clock wrong', 'firmware for another processor'], 'yes'),
      ...all(['certificate ended', 'certificate not yet', 'certificate for another name', 'certificate not trusted'], 'no'),
      ...all(['server silent'], 'no'),
      ...all(['server unknown', 'server misspelt', 'server on another port'], 'yes'),
    },
  },
  {
    id: 'network',
    ask: 'Please read me the name of the network under Wi-Fi, letter by letter. What is it?',
    answers: [
      { id: 'none', text: 'There is none' },
      { id: 'other', text: 'Another name' },
      { id: 'letters', text: 'The right name, with other capitals' },
      { id: 'right', text: 'The right name' },
    ],
    with: {
      ...all(wifi, 'right'),
      // a device on a cable may have a network besides
      ...all(['cable out'], 'none', 'right'),
      ...all(['wifi not set'], 'none'),
      ...all(['wifi name differs'], 'other'),
      ...all(['wifi name in other letters'], 'letters'),
    },
  },
  {
    id: 'security',
    ask: 'Which kind of security does the device show for the network?',
    answers: [
      { id: 'same', text: 'The kind that the network has' },
      { id: 'other', text: 'Another kind' },
    ],
    with: { ...all(['cable out', ...wifi], 'same'), ...all(['wifi security differs'], 'other') },
  },
  {
    id: 'key',
    ask: 'Please let the key be shown, and read it to me sign by sign. What is it?',
    answers: [
      { id: 'empty', text: 'The field is empty' },
      { id: 'other', text: 'Another key' },
      { id: 'letters', text: 'The right one, with other capitals or spaces' },
      { id: 'right', text: 'The right one' },
    ],
    with: {
      ...all(['cable out', ...wifi], 'right', 'empty'),
      ...all(['wifi too weak', 'wifi security differs', 'wifi name differs', 'wifi name in other letters'], 'right'),
      ...all(['wifi key missing'], 'empty'),
      ...all(['wifi key wrong'], 'other'),
      ...all(['wifi key in other letters'], 'letters'),
    },
  },
  {
    id: 'near',
    ask: 'Please carry it near the access point. Does it join there?',
    answers: [
      { id: 'yes', text: 'Yes' },
      { id: 'no', text: 'No' },
    ],
    with: { ...all(['cable out', ...wifi], 'no'), ...all(['wifi too weak'], 'yes') },
  },
  {
    id: 'address',
    ask: 'Does any device in this place have an address, or did it ever?',
    answers: [
      { id: 'yes', text: 'Yes, some have one now' },
      { id: 'lately', text: 'Not since something was changed' },
      { id: 'no', text: 'No, never' },
    ],
    with: {
      ...all(afterWifi, 'yes', 'lately'),
      ...all(['addresses used up'], 'yes'),
      ...all(['range unreadable'], 'lately'),
      ...all(['no scope'], 'no'),
    },
  },
  {
    id: 'server line',
    ask: 'Please read me the line “settings server”. What stands there?',
    answers: [
      { id: 'nothing', text: 'Nothing' },
      { id: 'odd', text: 'Odd signs, or numbers that are not ours' },
      { id: 'twice', text: 'It begins twice' },
      { id: 'gap', text: 'There is a gap before or behind it' },
      { id: 'protocol', text: 'It begins with other letters than http' },
      { id: 'no address', text: 'Something that is no address' },
      { id: 'address', text: 'A name or an address' },
    ],
    with: {
      ...all(looksEmpty, 'nothing'),
      ...all(['address where text is read', 'text where an address is read'], 'odd'),
      ...all(['option given twice'], 'twice'),
      ...all(['option with blanks'], 'gap'),
      ...all(['option of another protocol'], 'protocol'),
      ...all(['option is no address'], 'no address'),
      ...all(
        [
          ...servers,
          ...of('configuration files fetched and merged', 'firmware compared', 'time set', 'broker address known', 'sign-in screen'),
        ],
        'address',
      ),
    },
  },
  {
    id: 'signs',
    ask: 'Are they odd signs, or numbers?',
    answers: [
      { id: 'signs', text: 'Odd signs' },
      { id: 'numbers', text: 'Numbers with dots' },
    ],
    with: { ...all(['address where text is read'], 'signs'), ...all(['text where an address is read'], 'numbers') },
  },
  {
    id: 'option line',
    ask: 'Please look at the list of what the network told. Is there a line for the settings server, by its number?',
    answers: [
      { id: 'no', text: 'No such number, and no other with our server' },
      { id: 'empty', text: 'Yes, and it is empty' },
      { id: 'other', text: 'Another number has our server' },
      { id: 'filled', text: 'Yes, with something in it' },
    ],
    with: {
      ...all(['option missing', 'option for another class', 'class not described'], 'no'),
      ...all(['option empty'], 'empty'),
      ...all(['option under another number'], 'other'),
      ...all([...of('options found').filter((code) => !looksEmpty.includes(code)), ...servers], 'filled'),
    },
  },
  {
    id: 'vendor class',
    ask: 'What does the line “vendor class” on the device say?',
    answers: [
      { id: 'own', text: 'What the class of the device has here' },
      { id: 'other', text: 'What another class has here' },
      { id: 'none', text: 'Something that no class has here' },
    ],
    with: {
      ...all(['option missing', 'option empty'], 'own'),
      ...all(['option for another class'], 'other'),
      ...all(['class not described'], 'none'),
    },
  },
  {
    id: 'server name',
    ask: 'Please read me the settings server letter by letter, with the number at its end. What is it?',
    answers: [
      { id: 'same', text: 'Ours, exactly' },
      { id: 'letter', text: 'Ours, but for a letter' },
      { id: 'number', text: 'Ours, with another number at its end' },
      { id: 'another', text: 'Another one' },
    ],
    with: {
      ...all(['server silent'], 'same'),
      ...all(['server misspelt'], 'letter'),
      ...all(['server on another port'], 'number'),
      ...all(['server unknown'], 'another'),
    },
  },
  {
    id: 'line',
    ask: 'Does the message name a line?',
    answers: [
      { id: 'line', text: 'Yes, a line' },
      { id: 'sum', text: 'No, it says that the sum is wrong' },
    ],
    with: { ...all(lines, 'line'), ...all(['file sum differs'], 'sum') },
  },
  {
    id: 'of the line',
    ask: 'Please read me that line. What is it like?',
    answers: [
      { id: 'no equals', text: 'It has no equals sign' },
      { id: 'no key', text: 'It begins with the equals sign' },
      { id: 'bracket', text: 'A bracket opens and does not close' },
    ],
    with: {
      ...all(['line without equals'], 'no equals'),
      ...all(['line without key'], 'no key'),
      ...all(['section not closed'], 'bracket'),
    },
  },
  {
    id: 'year',
    ask: 'Which date and time does the clock of the device show?',
    answers: [
      { id: 'now', text: 'Those of now' },
      { id: 'other', text: 'Others' },
    ],
    with: { ...all(['clock wrong', 'time server as text'], 'other'), ...all(of('sign-in screen'), 'now') },
  },
  {
    id: 'time line',
    ask: 'In the list of what the network told: is there a line of a time server?',
    answers: [
      { id: 'yes', text: 'Yes' },
      { id: 'no', text: 'No' },
    ],
    with: { ...all(['time server as text'], 'yes'), ...all(['clock wrong'], 'no') },
  },
  {
    id: 'broker',
    ask: 'Please open the files that the device read. What stands there of the place to sign in, “address” under [broker]?',
    answers: [
      { id: 'missing', text: 'Nothing of it' },
      { id: 'comment', text: 'It is there, behind a ; or #' },
      { id: 'empty', text: 'The word, and nothing behind it' },
      { id: 'section', text: 'It stands in another section' },
      { id: 'word', text: 'A word that is nearly “address”' },
      { id: 'no name', text: 'Something that is no name' },
    ],
    with: {
      ...all(['broker missing'], 'missing'),
      ...all(['broker switched off'], 'comment'),
      ...all(['broker empty'], 'empty'),
      ...all(['broker in another section'], 'section'),
      ...all(['broker misspelt'], 'word'),
      ...all(['broker is no name'], 'no name'),
    },
  },
  {
    id: 'certificate',
    ask: 'Please open the message. What does it say of the certificate?',
    answers: [
      { id: 'ended', text: 'It has ended' },
      { id: 'not yet', text: 'It is not valid yet' },
      { id: 'name', text: 'It is for another name' },
      { id: 'trust', text: 'Nobody known has signed it' },
      { id: 'version', text: 'It speaks of a version' },
    ],
    with: {
      ...all(['certificate ended'], 'ended'),
      ...all(['certificate not yet'], 'not yet'),
      ...all(['certificate for another name'], 'name'),
      ...all(['certificate not trusted'], 'trust'),
      ...all(['client too old'], 'version'),
    },
  },
];
