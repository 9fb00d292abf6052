import { boot } from '../boot.js';
import { card } from '../card.js';
import { cvt, dhcp, edid, merge, passes, ports, version, wifi } from '../bringup.js';
import { folder, demo, type CommandWords } from './words.js';

/** Commands for devices on their way up, and for their screens. */
export const ofBringup: readonly CommandWords[] = [
  {
    name: 'dhcp',
    does: 'Reads messages of DHCP out of a capture, a message or hex text, and says what is wrong.',
    takes: [['FILE', 'capture, message or hex text']],
    options: [{ name: 'hex', says: 'it is hex text, whatever it looks like' }],
    examples: ['dhcp boot.pcapng', 'dhcp message.txt --hex --json'],
    run: dhcp,
  },
  {
    name: 'merge',
    does: 'Merges configuration files in the order given: what counts, where it is from, and what is wrong.',
    takes: [['FILES', 'the files, the later wins']],
    several: true,
    options: [],
    examples: ['merge all.ini thin-client.ini gul-k01.ini'],
    run: merge,
  },
  {
    name: 'version',
    does: 'Compares versions of firmware: -1 where the first is lower, 1 where it is higher.',
    takes: [
      ['A', 'a version, such as 3.4_118'],
      ['B', 'another'],
    ],
    options: [],
    examples: ['version 3.10 3.9'],
    run: version,
  },
  {
    name: 'boot',
    does: 'Simulates the start of a device of an estate up to its sign-in screen: every step, and the first one that breaks.',
    takes: folder,
    options: [{ name: 'endpoint', takes: 'ID', says: 'the device, by id' }],
    examples: [`boot ${demo} --endpoint MAR-TC-001`],
    run: (options) => boot(options, Date.now()),
  },
  {
    name: 'wifi',
    does: 'The text of a code by which a device joins a network.',
    options: [
      { name: 'ssid', takes: 'NAME', says: 'name of the network' },
      { name: 'key', takes: 'KEY', says: 'its key', without: 'none' },
      { name: 'type', takes: 'TYPE', says: 'WPA, SAE, WEP or nopass', without: 'WPA' },
      { name: 'hidden', says: 'it does not tell its name' },
    ],
    examples: ['wifi --ssid Quayside --key tide-tables --type WPA'],
    run: wifi,
  },
  {
    name: 'card',
    does: 'Holds a card, or a file that stands in for one, against the image that was written to it; writes it first where that is asked.',
    takes: [
      ['IMAGE', 'file of the image, unpacked'],
      ['CARD', 'the card as a whole, such as /dev/sdx, or a file in its place'],
    ],
    options: [
      { name: 'write', says: 'write the image to the card first; what looks like a disk of the system is refused' },
      { name: 'label', takes: 'LABEL', says: 'what the card is called, so that it is not named by a letter alone' },
      { name: 'size', takes: 'GB', says: 'how much it holds, 0.001 to 2000' },
      { name: 'sha256', takes: 'SUM', says: 'sum that the image has to have' },
    ],
    examples: ['card tc.img card.img --write'],
    run: card,
  },
  {
    name: 'edid',
    does: 'What a screen says of itself (EDID): who made it, its modes and size, and what is wrong.',
    takes: [['FILE', 'the description, as it is, in hex or in base64']],
    options: [],
    examples: ['edid screen.bin --json'],
    run: edid,
  },
  {
    name: 'cvt',
    does: 'The timing of a picture by VESA CVT: its clock, totals and sync.',
    takes: [
      ['WIDTH', 'width of the picture, px'],
      ['HEIGHT', 'its height, px'],
      ['REFRESH', 'pictures a second, Hz'],
    ],
    options: [{ name: 'reduced', says: 'with the reduced blanking of flat screens, version 1' }],
    examples: ['cvt 1920 1080 60', 'cvt 3840 2160 60 --reduced'],
    run: cvt,
  },
  {
    name: 'passes',
    does: 'Whether a picture passes a port: what it needs and what the port carries.',
    options: [
      { name: 'width', takes: 'PX', says: 'width of the picture, px' },
      { name: 'height', takes: 'PX', says: 'its height, px' },
      { name: 'refresh', takes: 'HZ', says: 'pictures a second, Hz' },
      { name: 'port', takes: 'KIND', says: `one of ${ports.join(', ')}` },
      { name: 'lanes', takes: 'N', says: 'lanes of a DisplayPort: 1, 2 or 4', without: '4' },
      { name: 'chroma', takes: '444|420', says: 'detail of colour, 4:4:4 or 4:2:0', without: '444' },
    ],
    examples: ['passes --width 3840 --height 2160 --refresh 60 --port hdmi-1.4'],
    run: passes,
  },
];
