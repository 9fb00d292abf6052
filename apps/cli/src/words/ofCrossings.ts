import { compare } from '../compare.js';
import { evaluate } from '../evaluate.js';
import { impact } from '../impact.js';
import { lint } from '../lint.js';
import { settings } from '../settings.js';
import { carry, usb } from '../usb.js';
import { folder, demo, person, type CommandWords } from './words.js';

/** Commands that work out crossings, settings and devices of an estate. */
export const ofCrossings: readonly CommandWords[] = [
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
];
