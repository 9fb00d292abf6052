import { of, shown } from './words.js';

/** Between the device and its network. */
export const link = of('link up', shown.link, {
  'cable out': [
    'The network cable is not plugged in.',
    'Plug the cable in at both ends.',
    'wifi not set',
    'Is there a small light beside the socket of the cable?',
    'No light',
    'There is no cable',
  ],
  'wifi not set': [
    'The device is to join by Wi-Fi and has no name of a network.',
    'Set the network “{network}” on the device, or plug a cable in.',
    'cable out',
    'Which network does the device name under Wi-Fi?',
    'None',
    'It is joined by cable',
  ],
  'wifi name differs': [
    'The device looks for the network “{has}”; {place} has “{network}”.',
    'Set the network “{network}” on the device.',
    'wifi too weak',
    'Does your telephone find the network that the device names?',
    'No, there is none of that name',
    'Yes, but weakly',
  ],
  'wifi name in other letters': [
    'The device looks for “{has}”; the network of {place} is written “{network}”. Capital letters count.',
    'Write the network as “{network}”.',
    'wifi name differs',
    'Please read me the name letter by letter. Which letters are capitals?',
    'Others than in “{network}”',
    'It is another name',
  ],
  'wifi security differs': [
    'The device joins with {has}; the network of {place} wants {network}.',
    'Set {network} on the device.',
    'wifi key wrong',
    'Which kind of security does the device show for the network?',
    '{has}',
    '{network}',
  ],
  'wifi key missing': [
    'The network of {place} has a key, and the device has none.',
    'Type the key of “{network}” on the device.',
    'wifi key wrong',
    'Are there dots in the field of the key?',
    'No, it is empty',
    'Yes',
  ],
  'wifi key wrong': [
    'The key of the device is not that of the network “{network}”.',
    'Type the key of “{network}” on the device anew.',
    'wifi key in other letters',
    'Please show the key and read it to me letter by letter.',
    'It is another key',
    'It is the same, with other capitals or spaces',
  ],
  'wifi key in other letters': [
    'The key of the device differs from that of “{network}” in capital letters or spaces alone.',
    'Type the key of “{network}” with its own capitals, without spaces before or behind.',
    'wifi key wrong',
    'Please show the key and read it to me letter by letter.',
    'It is the same, with other capitals or spaces',
    'It is another key',
  ],
  'wifi too weak': [
    'The Wi-Fi arrives with {has} dBm; below {network} dBm nothing can be joined.',
    'Bring the device or an access point nearer, or plug a cable in.',
    'wifi key wrong',
    'Carry it near the access point. Does it join there?',
    'Yes',
    'No',
  ],
});

/** At the server of addresses. */
export const address = of('DHCP', shown.address, {
  'no scope': [
    'Nobody gives addresses at {place}.',
    'Set up a scope for {place}, or let its network be served by the server of another place.',
    'addresses used up',
    'Do other devices beside it have an address?',
    'None has one',
    'Those that have been on for long do',
  ],
  'addresses used up': [
    'All addresses of {scope} are given away.',
    'Widen the range of {scope}, or shorten its lease.',
    'no scope',
    'Do other devices beside it have an address?',
    'Those that have been on for long do',
    'None has one',
  ],
  'range unreadable': [
    'The addresses of {scope} are written “{has}”, which is no range.',
    'Write the range as 192.0.2.50-192.0.2.90 or 192.0.2.0/24.',
    'no scope',
    'Did any device at this place ever have an address?',
    'Not since the scope was changed',
    'Never',
  ],
});
