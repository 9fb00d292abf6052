import { voiceCodecs } from '@underpass/core';
import { acceptance, code, har, ready, sees, why } from './access.js';
import { boot } from './boot.js';
import { card } from './card.js';
import { cvt, dhcp, edid, merge, passes, ports, version, wifi } from './bringup.js';
import { link, picture, throughput, voice, wifiRate } from './calculators.js';
import { compare } from './compare.js';
import { evaluate } from './evaluate.js';
import { gaps } from './gaps.js';
import { impact } from './impact.js';
import { importInto } from './importInto.js';
import { columns, read, template } from './intake.js';
import { lint } from './lint.js';
import type { Options } from './options.js';
import { settings } from './settings.js';
import { carry, usb } from './usb.js';

/** An option of a command: what it takes, if anything, what it means, and what holds without it. */
export interface OptionWords {
  name: string;
  takes?: string;
  says: string;
  without?: string;
}
export interface CommandWords {
  name: string;
  does: string;
  /** What stands behind the name: each with its meaning. */
  takes?: readonly (readonly [name: string, says: string])[];
  /** Whether the last of those may be several. */
  several?: boolean;
  options: readonly OptionWords[];
  examples: readonly string[];
  /** What stands in text where there is none; a figure that is not there is not known. */
  absent?: string;
  /** Its figures are rounded to this many that count. */
  digits?: number;
  run: (options: Options) => object | Promise<object>;
}

const folder = [['FOLDER', 'folder of an estate, its files in the form of docs/estate.md']] as const;
const demo = 'demo/saltmarsh';
const person = { name: 'person', takes: 'ID', says: 'id of a person' };
/** As much as a calculation of this kind can know. */
const known = 4;

export const commands: readonly CommandWords[] = [
  {
    name: 'evaluate',
    does: 'Evaluates the crossings of an estate: verdict, figures, findings and remedies of each.',
    takes: folder,
    options: [
      { ...person, says: 'only those of a person, by id' },
      { name: 'endpoint', takes: 'ID', says: 'only those on an endpoint' },
      { name: 'resource', takes: 'ID', says: 'only those to a resource' },
    ],
    examples: [`evaluate ${demo} --endpoint WEX-TC-020`],
    run: (options) => evaluate(options, Date.now()),
  },
  {
    name: 'settings',
    does: 'The settings in force for somebody at an endpoint: each with its value, the layer it comes from, and what it hides.',
    takes: folder,
    options: [
      { name: 'endpoint', takes: 'ID', says: 'the endpoint, by id' },
      { ...person, says: 'who sits at it, by id', without: 'its usual person' },
      { name: 'resource', takes: 'ID', says: 'what is opened, by id; no setting depends on it yet' },
    ],
    examples: [`settings ${demo} --endpoint WEX-TC-020`],
    run: settings,
  },
  {
    name: 'usb',
    does: 'Devices by their descriptors: what each is, function by function, what it asks for, and how it is best carried.',
    takes: [['FILE', 'what “lsusb -v” printed, or binary descriptors as a system hands them out']],
    options: [],
    examples: ['usb headset.txt'],
    run: usb,
  },
  {
    name: 'carry',
    does: 'What becomes of a device at an endpoint: by which rule it is carried, how, when, and what that costs.',
    takes: folder,
    options: [
      { name: 'endpoint', takes: 'ID', says: 'the endpoint, by id' },
      { name: 'device', takes: 'VID:PID', says: 'the device, by vendor and product: four hexadecimal digits each' },
      { ...person, says: 'who sits at it, by id', without: 'its usual person' },
    ],
    examples: [`carry ${demo} --endpoint WEX-TC-009 --device f1c0:0b01`],
    run: (options) => carry(options, Date.now()),
  },
  {
    name: 'impact',
    does: 'What one setting at one layer would do to every crossing of an estate: verdicts before and after, and who loses.',
    takes: folder,
    options: [
      { name: 'set', takes: 'KEY=VALUE', says: 'the setting by its key, and its value' },
      { name: 'layer', takes: 'LAYER[:ID]', says: 'organisation, device-class:ID, location:ID, group:ID, person:ID or endpoint:ID' },
    ],
    examples: [`impact ${demo} --set picture.frameCap=60 --layer organisation`],
    run: (options) => impact(options, Date.now()),
  },
  {
    name: 'lint',
    does: 'What does not fit among the settings in force: of each crossing the rule, the cause, what comes of it, and what mends it.',
    takes: folder,
    options: [],
    examples: [`lint ${demo}`],
    run: (options) => lint(options, Date.now()),
  },
  {
    name: 'compare',
    does: 'Why it works for one and not for another: what is otherwise on two crossings, and how much of the difference each explains.',
    takes: folder,
    options: [
      { name: 'a', takes: 'CROSSING', says: 'one crossing, as person~endpoint~resource' },
      { name: 'b', takes: 'CROSSING', says: 'the other one' },
    ],
    examples: [`compare ${demo} --a P136~WEX-TC-020~timetable --b P197~SAN-TC-001~counter`],
    run: (options) => compare(options, Date.now()),
  },
  {
    name: 'link',
    does: 'Reads a measurement of a line: text of ping or fping, JSON of iperf3, or a CSV of round trips.',
    takes: [['FILE', 'file of the measurement']],
    options: [],
    examples: ['link ping.txt', 'link iperf3.json --json'],
    digits: known,
    run: link,
  },
  {
    name: 'voice',
    does: 'How a voice sounds over a line, by the E-model of ITU-T G.107.',
    options: [
      { name: 'delay', takes: 'MS', says: 'delay from mouth to ear, 0 to 10000 ms' },
      { name: 'loss', takes: 'PERCENT', says: 'packets lost, 0 to 100' },
      { name: 'codec', takes: 'CODEC', says: `one of ${Object.keys(voiceCodecs).join(', ')}`, without: 'g711-plc' },
      { name: 'burst', takes: 'R', says: 'burst ratio of the loss, 1 to 100', without: '1, loss at random' },
    ],
    examples: ['voice --delay 150 --loss 1'],
    digits: known,
    run: voice,
  },
  {
    name: 'throughput',
    does: 'What one connection gets through a line that loses packets.',
    options: [
      { name: 'rtt', takes: 'MS', says: 'round trip, 0 to 120000 ms' },
      { name: 'loss', takes: 'PERCENT', says: 'packets lost, 0 to 100' },
      { name: 'mss', takes: 'BYTES', says: 'bytes of a segment, 1 to 65535', without: '1460' },
      { name: 'window', takes: 'BYTES', says: 'largest window, for what it allows', without: 'not told' },
    ],
    examples: ['throughput --rtt 100 --loss 1 --window 65535'],
    digits: known,
    run: throughput,
  },
  {
    name: 'wifi-rate',
    does: 'The rate of a Wi-Fi link by its standard, width, scheme, streams and guard interval.',
    options: [
      { name: 'standard', takes: 'ht|vht|he', says: '802.11n, ac or ax' },
      { name: 'width', takes: 'MHZ', says: 'channel width: 20, 40, 80 or 160' },
      { name: 'mcs', takes: 'N', says: 'modulation and coding scheme' },
      { name: 'streams', takes: 'N', says: 'spatial streams' },
      { name: 'gi', takes: 'NS', says: 'guard interval: 400 or 800; of he 800, 1600 or 3200' },
    ],
    examples: ['wifi-rate --standard he --width 80 --mcs 9 --streams 2 --gi 800'],
    run: wifiRate,
  },
  {
    name: 'picture',
    does: 'What a picture asks of the line, of its first frame and of a decoder.',
    options: [
      { name: 'width', takes: 'PX', says: 'width of the picture, 16 to 16384' },
      { name: 'height', takes: 'PX', says: 'its height, 16 to 16384' },
      { name: 'fps', takes: 'N', says: 'frames a second, 1 to 240', without: '30' },
      { name: 'codec', takes: 'CODEC', says: 'bitmap, progressive, h264, hevc or av1', without: 'h264' },
      { name: 'chroma', takes: '420|444', says: 'detail of colour, 4:2:0 or 4:4:4', without: '420' },
      {
        name: 'content',
        takes: 'CLASS',
        says: 'still, text, window, page-video, video or motion all the time',
        without: 'ordinary work with some video',
      },
    ],
    examples: ['picture --width 1920 --height 1080', 'picture --width 3840 --height 2160 --fps 60 --content motion'],
    digits: known,
    run: picture,
  },
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
  {
    name: 'sees',
    does: 'What a person sees now and after the next sign-in, each with the way it comes by.',
    takes: folder,
    options: [person],
    examples: [`sees ${demo} --person P007`],
    absent: 'nothing',
    run: (options) => sees(options, Date.now()),
  },
  {
    name: 'why',
    does: 'Why a person does not see a resource, and the smallest mend.',
    takes: folder,
    options: [person, { name: 'resource', takes: 'ID', says: 'id of the resource' }],
    examples: [`why ${demo} --person P081 --resource safety`],
    absent: 'nothing',
    run: why,
  },
  {
    name: 'acceptance',
    does: 'The distinct sets of what people see, and the fewest people to test them with.',
    takes: folder,
    options: [],
    examples: [`acceptance ${demo}`],
    run: (options) => acceptance(options, Date.now()),
  },
  {
    name: 'ready',
    does: 'Who is ready for a feature, and what blocks the others.',
    takes: folder,
    options: [{ name: 'feature', takes: 'NAME', says: 'id or name of a requirement set' }, person],
    examples: [`ready ${demo} --feature kiosk-single-resource`],
    run: (options) => ready(options, Date.now()),
  },
  {
    name: 'har',
    does: 'Reads a recorded sign-in (HAR) into its steps. Nothing of it is kept.',
    takes: [['FILE', 'file of the recording']],
    options: [],
    examples: ['har sign-in.har'],
    run: har,
  },
  {
    name: 'code',
    does: 'Writes a text as a QR code.',
    takes: [['TEXT', 'what the code holds']],
    options: [{ name: 'out', takes: 'FILE', says: 'file to write, .svg or .png' }],
    examples: ['code https://portal.example/open/yard/orders --out orders.svg'],
    run: code,
  },
  {
    name: 'columns',
    does: 'What a list of somebody’s holds: how it is written, what each column looks like, and the field it is taken for.',
    takes: [['FILE', 'list as CSV, workbook (.xlsx) or LDIF']],
    options: [{ name: 'kind', takes: 'KIND', says: 'kind of object the list is of, such as endpoint', without: 'the one that fits best' }],
    examples: ['columns devices.csv', 'columns devices.xlsx --kind endpoint'],
    run: columns,
  },
  {
    name: 'read',
    does: 'Takes a list in: which rows are new, changed or as they were, and what keeps the others out. Writes estate files only with --into.',
    takes: [['FILE', 'list as CSV, workbook (.xlsx) or LDIF']],
    options: [
      { name: 'kind', takes: 'KIND', says: 'kind of object the rows are', without: 'that of the mapping' },
      { name: 'map', takes: 'FILE.yaml', says: 'a mapping that was kept', without: 'what the columns are taken for' },
      { name: 'into', takes: 'FOLDER', says: 'estate folder that rows are compared with and written to; it may be empty or not there yet' },
    ],
    examples: ['read devices.csv --kind endpoint --map devices.yaml --into my-estate'],
    run: read,
  },
  {
    name: 'gaps',
    does: 'What is measured, reported, declared, assumed or not known of an estate, and what is best learned next.',
    takes: folder,
    options: [],
    examples: [`gaps ${demo}`],
    run: (options) => gaps(options, Date.now()),
  },
  {
    name: 'template',
    does: 'Writes an estate folder to fill in: every file with its columns and one example, and a page that explains them.',
    takes: [['FOLDER', 'folder to write; it must be new or empty']],
    options: [],
    examples: ['template my-estate'],
    run: template,
  },
  {
    name: 'import',
    does: 'Imports an estate folder into a running server: a dry run, or all or nothing. Signs in with UNDERPASS_EMAIL and UNDERPASS_PASSWORD.',
    takes: folder,
    options: [
      { name: 'server', takes: 'URL', says: 'where it runs', without: 'http://127.0.0.1:4600' },
      { name: 'apply', takes: 'yes|no', says: 'whether to import, or only to tell what would be', without: 'no' },
    ],
    examples: [`import ${demo} --apply yes`],
    run: importInto,
  },
];
