import { acceptance, code, har, ready, sees, why } from './access.js';
import { link, picture, throughput, voice, wifiRate } from './calculators.js';
import { CommandError } from './commandError.js';
import { evaluate } from './evaluate.js';
import { importInto } from './importInto.js';
import { readOptions, type Options } from './options.js';

interface Command {
  usage: string;
  options: readonly string[];
  /** What stands in text where there is none; a figure that is not there is not known. */
  absent?: string;
  run: (options: Options) => object | Promise<object>;
}

const commands: Record<string, Command> = {
  evaluate: {
    usage: 'evaluate FOLDER [--person ID] [--endpoint ID] [--resource ID]',
    options: ['person', 'endpoint', 'resource'],
    run: (options) => evaluate(options, Date.now()),
  },
  link: { usage: 'link FILE', options: [], run: link },
  voice: {
    usage: 'voice --delay MS --loss PERCENT [--codec g711|g711-plc|g729a] [--burst R]',
    options: ['delay', 'loss', 'codec', 'burst'],
    run: voice,
  },
  throughput: {
    usage: 'throughput --rtt MS --loss PERCENT [--mss BYTES] [--window BYTES]',
    options: ['rtt', 'loss', 'mss', 'window'],
    run: throughput,
  },
  'wifi-rate': {
    usage: 'wifi-rate --standard ht|vht|he --width MHZ --mcs N --streams N --gi NS',
    options: ['standard', 'width', 'mcs', 'streams', 'gi'],
    run: wifiRate,
  },
  picture: {
    usage: 'picture --width PX --height PX --fps N --codec C --chroma 420|444 --content CLASS',
    options: ['width', 'height', 'fps', 'codec', 'chroma', 'content'],
    run: picture,
  },
  sees: { usage: 'sees FOLDER --person ID', options: ['person'], absent: 'nothing', run: (options) => sees(options, Date.now()) },
  why: { usage: 'why FOLDER --person ID --resource ID', options: ['person', 'resource'], absent: 'nothing', run: why },
  acceptance: { usage: 'acceptance FOLDER', options: [], run: (options) => acceptance(options, Date.now()) },
  ready: {
    usage: 'ready FOLDER --feature NAME [--person ID]',
    options: ['feature', 'person'],
    run: (options) => ready(options, Date.now()),
  },
  har: { usage: 'har FILE', options: [], run: har },
  code: { usage: 'code TEXT --out FILE.svg|.png', options: ['out'], run: code },
  import: {
    usage: 'import FOLDER [--server URL] [--apply yes]   (signs in with UNDERPASS_EMAIL and UNDERPASS_PASSWORD)',
    options: ['server', 'apply'],
    run: importInto,
  },
};

/** One line per figure or list of words, for people; --json is for programs. */
function plain(value: object, absent: string, indent = ''): string {
  const lines = Object.entries(value).map(([key, inner]: [string, unknown]) => {
    if (Array.isArray(inner) && inner.every((each) => typeof each !== 'object')) return `${indent}${key}: ${inner.join(', ') || 'none'}`;
    if (inner !== null && typeof inner === 'object') return `${indent}${key}\n${plain(inner, absent, `${indent}  `)}`;
    return `${indent}${key}: ${String(inner ?? absent)}`;
  });
  return lines.join('\n');
}

/**
 * Carries out one command.
 * @returns what it prints
 * @throws CommandError what is wrong, with its place
 */
export async function commandLine(args: readonly string[]): Promise<string> {
  const json = args.includes('--json');
  const [name, ...rest] = args.filter((arg) => arg !== '--json');
  const command = Object.hasOwn(commands, name ?? '') ? commands[name as string] : undefined;
  if (!command)
    throw new CommandError(
      `${name === undefined ? 'give a command' : `“${name}” is not a command`}; commands:\n${Object.values(commands)
        .map(({ usage }) => `  ${usage}`)
        .join('\n')}\nAdd --json for one JSON document.`,
    );
  const result = await command.run(readOptions(rest, command.options));
  return `${json ? JSON.stringify(result) : plain(result, command.absent ?? 'not known')}\n`;
}
