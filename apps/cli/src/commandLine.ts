import { readFileSync } from 'node:fs';
import { Command, CommanderError, Option, type Argument } from 'commander';
import { CommandError } from './commandError.js';
import { commands, type CommandWords } from './commands.js';
import { optionsOf } from './options.js';

/** The version of the whole, which the command line is a part of. */
const { version } = JSON.parse(readFileSync(new URL('../package.json', import.meta.url), 'utf8')) as { version: string };
const wordOf = (argument: Argument): string => `<${argument.name()}${argument.variadic ? '...' : ''}>`;
const json = () => new Option('--json', 'one JSON document instead of text');
/** Commands about the whole instance: they need its database, and are carried out by the script that starts this. */
const ofInstance = [
  ['backup', 'Writes everything an instance keeps into one file.'],
  ['restore', 'Brings a backup back into an empty instance.'],
] as const;

/** One line per figure or list of words, for people; --json is for programs. */
function plain(value: object, absent: string, indent = ''): string {
  const lines = Object.entries(value).map(([key, inner]: [string, unknown]) => {
    if (Array.isArray(inner) && inner.every((each) => typeof each !== 'object')) return `${indent}${key}: ${inner.join(', ') || 'none'}`;
    if (inner !== null && typeof inner === 'object') return `${indent}${key}\n${plain(inner, absent, `${indent}  `)}`;
    return `${indent}${key}: ${String(inner ?? absent)}`;
  });
  return lines.join('\n');
}

/** Figures as far as they are known: whole ones as they are, others with so many digits that count. */
function rounded(value: unknown, digits: number): unknown {
  if (typeof value === 'number') return Number.isInteger(value) ? value : Number(value.toPrecision(digits));
  if (Array.isArray(value)) return value.map((each) => rounded(each, digits));
  if (value === null || typeof value !== 'object') return value;
  return Object.fromEntries(Object.entries(value).map(([key, inner]) => [key, rounded(inner, digits)]));
}

/** What commander tells is wrong, in the words of this command line. */
const faultOf = ({ message }: CommanderError, command: Command): CommandError => {
  const text = message
    .replace(/^error: /, '')
    .replace(/^unknown option '(.*?)'/, '$1: is not an option here')
    .replace(/^unknown command '(.*?)'/, '“$1” is not a command')
    .replace(/^option '--(\S+) .*?' argument missing$/, '--$1: is missing its value')
    .replace(/^missing required argument '(.*?)'$/, `${command.name()}: $1 is missing`)
    .replace(/^too many arguments.*$/, `${command.name()}: there is a word too many`)
    .replace(/\n\(Did you mean (.*?)\?\)/, '; did you mean $1?');
  return new CommandError(`${text}\nSee: ${command.parent ? `${command.name()} ` : ''}--help`);
};

/**
 * Carries out one command.
 * @returns what it prints
 * @throws CommandError what is wrong, with its place
 */
export async function commandLine(args: readonly string[]): Promise<string> {
  let printed = '';
  let asked: Command;
  const quiet = (command: Command) =>
    command.exitOverride().configureOutput({ writeOut: (text) => (printed += text), writeErr: () => undefined });
  const program = quiet(new Command('underpass'))
    .description('Finds out what stands between people and their remote desktops. Everything here runs without a server, but for “import”.')
    .version(version, '--version', 'the version')
    .helpOption('--help', 'this, or of a command its options')
    .helpCommand(false)
    // every command has options: only what has to be given stands beside its name
    .configureHelp({ subcommandTerm: (command) => [command.name(), ...command.registeredArguments.map(wordOf)].join(' ') })
    .usage('COMMAND … [--json]')
    .addHelpText('after', '\nExample: npm run -s underpass -- evaluate demo/saltmarsh --endpoint WEX-TC-020');
  asked = program;
  const add = (words: CommandWords) => {
    const command = quiet(program.command(words.name).description(words.does)).helpOption('--help', 'this');
    for (const [i, [name, says]] of (words.takes ?? []).entries())
      command.argument(words.several && i === (words.takes?.length ?? 0) - 1 ? `<${name}...>` : `<${name}>`, says);
    for (const { name, takes, says, without } of words.options)
      command.option(takes ? `--${name} <${takes}>` : `--${name}`, without ? `${says} (without it: ${without})` : says);
    command
      .addOption(json())
      .addHelpText('after', `\n${words.examples.map((each) => `Example: npm run -s underpass -- ${each}`).join('\n')}`);
    command.hook('preAction', () => {
      asked = command;
    });
    command.action(async () => {
      const given = command.opts<Record<string, string | boolean | undefined>>();
      const answer = await words.run(optionsOf(command.args, given));
      const result = words.digits ? (rounded(answer, words.digits) as object) : answer;
      printed += `${given.json ? JSON.stringify(result) : plain(result, words.absent ?? 'not known')}\n`;
    });
  };
  commands.forEach(add);
  for (const [name, does] of ofInstance)
    quiet(program.command(name).description(does).argument('<FILE>', 'the file of the backup'))
      .helpOption('--help', 'this')
      .addOption(json())
      .action(() => {
        throw new CommandError(`${name}: run it as npm run -s underpass -- ${name} FILE`);
      });
  // before a command as well as behind it
  const [first, ...rest] = args;
  const words = first === '--json' ? [...rest, '--json'] : [...args];
  if (words.length === 0) throw new CommandError(`give a command\n${program.helpInformation()}`);
  try {
    await program.parseAsync(words, { from: 'user' });
  } catch (error) {
    if (!(error instanceof CommanderError)) throw error;
    // help and version were asked for; all else is wrong
    if (error.exitCode !== 0) throw faultOf(error, program.commands.find((each) => each.name() === words[0]) ?? asked);
  }
  return printed;
}
