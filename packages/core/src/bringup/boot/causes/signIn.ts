import { of, shown } from './words.js';

/** In the firmware that is offered. */
export const firmware = of('firmware compared', shown.firmware, {
  'firmware for another processor': [
    'The firmware that is offered to a {class}, {has}, is for {offered}; this one has {processor}.',
    'Put up the firmware for {processor}.',
    'file sum differs',
    'Does the message speak of an update, or of settings?',
    'An update',
    'Settings',
  ],
});

/** With the time. */
export const time = of('time set', shown.time, {
  'clock wrong': [
    'The clock is wrong ({has}), and no scope of {place} says where the time is (option 42).',
    'Give option 42 in {scope}, or set the clock by hand.',
    'time server as text',
    'Which year does the clock of the device show?',
    'Another than now',
    'Another than now, and a time server is named',
  ],
  'time server as text': [
    'The clock is wrong ({has}), and {scope} gives the time server (option 42) as text, where devices read an address.',
    'Give option 42 as an address in {scope}.',
    'clock wrong',
    'Does the list of what the network told show a line 42?',
    'Yes',
    'No',
  ],
});

/** In where it is to sign in. */
export const broker = of('broker address known', shown.broker, {
  'broker missing': [
    'No file says where to sign in: key “address” of section [broker].',
    'Write address = … under [broker] into a file of the organisation.',
    'broker switched off',
    'Does the device show which files it read?',
    'Fewer than four',
    'Four',
  ],
  'broker switched off': [
    'Section [broker] is switched off in {file}, line {line}.',
    'Take the sign of the comment away in line {line} of {file}.',
    'broker missing',
    'Is “{file}” among the files that the device read?',
    'Yes',
    'No',
  ],
  'broker empty': [
    'The address of the broker is empty in {file}, line {line}.',
    'Write the address behind “=” in line {line} of {file}.',
    'broker missing',
    'Is “{file}” among the files that the device read?',
    'Yes',
    'No',
  ],
  'broker in another section': [
    '“address” stands in [{has}] of {file}, line {line}; it belongs into [broker].',
    'Put line {line} of {file} under [broker].',
    'broker missing',
    'Is “{file}” among the files that the device read?',
    'Yes',
    'No',
  ],
  'broker misspelt': [
    '[broker] has “{has}” in {file}, line {line}; the key is called “address”.',
    'Write address in line {line} of {file}.',
    'broker missing',
    'Is “{file}” among the files that the device read?',
    'Yes',
    'No',
  ],
  'broker is no name': [
    'The address of the broker is “{has}” in {file}, line {line}, which is no name.',
    'Write a host name into line {line} of {file}, without http:// and without blanks.',
    'broker missing',
    'Please read me the line “sign in at”.',
    '{has}',
    'It is empty',
  ],
});

/** At the gateway. */
export const signIn = of('sign-in screen', shown.signIn, {
  'certificate ended': [
    'The certificate of {has} ended on {day}.',
    'Renew the certificate of {has}.',
    'clock wrong',
    'Which day does the clock of the device show?',
    'Today',
    'Another day',
  ],
  'certificate not yet': [
    'The certificate of {has} is valid from {day} on.',
    'Put the certificate of {has} that is valid now in its place.',
    'clock wrong',
    'Which day does the clock of the device show?',
    'Today',
    'Another day',
  ],
  'certificate for another name': [
    'The certificate of {has} is for {names}.',
    'Give {has} a certificate for its own name.',
    'certificate not trusted',
    'For which name does the warning say the certificate is?',
    'Another than {has}',
    '{has}',
  ],
  'certificate not trusted': [
    'Nobody whom the device trusts has signed the certificate of {has}.',
    'Give {has} a certificate that is trusted.',
    'certificate for another name',
    'For which name does the warning say the certificate is?',
    '{has}',
    'Another than {has}',
  ],
  'client too old': [
    '{has} takes {floor} and later; the client of this device is {version}.',
    'Put up firmware with client {floor} or later.',
    'certificate not trusted',
    'Does the message speak of a version?',
    'Yes',
    'No, of a certificate',
  ],
});
