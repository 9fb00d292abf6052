import { acceptance, code, har, ready, sees, why } from '../access.js';
import { folder, demo, person, type CommandWords } from './words.js';

/** Commands for who sees what, and how they get in. */
export const ofAccess: readonly CommandWords[] = [
  {
    name: 'sees',
    does: 'What a person sees now and after the next sign-in, each with the way it comes by.',
    takes: folder,
    options: [person],
    examples: [`sees ${demo} --person P007`],
    absent: 'nothing',
    run: sees,
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
];
