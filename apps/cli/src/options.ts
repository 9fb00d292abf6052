import { parseArgs } from 'node:util';
import { CommandError } from './commandError.js';

export interface Options {
  positional: string[];
  text: (name: string) => string | undefined;
  /** A number in a range; undefined where the option was not given. */
  number: (name: string, min: number, max: number) => number | undefined;
  needed: (name: string, min: number, max: number) => number;
  choice: <T extends string>(name: string, words: readonly T[]) => T | undefined;
}

/** Reads the options of a command; an unknown one, a missing value or a value out of range is a fault with its name. */
export function readOptions(args: string[], names: readonly string[]): Options {
  let parsed;
  try {
    parsed = parseArgs({
      args,
      allowPositionals: true,
      options: Object.fromEntries(names.map((name) => [name, { type: 'string' as const }])),
    });
  } catch (error) {
    throw new CommandError(
      `${(error as Error).message.split('. ')[0]}; options here: ${names.map((name) => `--${name}`).join(', ') || 'none'}`,
    );
  }
  const text = (name: string) => parsed.values[name] as string | undefined;
  const number = (name: string, min: number, max: number) => {
    const value = text(name);
    if (value === undefined) return undefined;
    const n = value.trim() === '' ? NaN : Number(value);
    if (!(n >= min && n <= max)) throw new CommandError(`--${name}: “${value}” is not a number from ${min} to ${max}`);
    return n;
  };
  return {
    positional: parsed.positionals,
    text,
    number,
    needed: (name, min, max) => {
      const n = number(name, min, max);
      if (n === undefined) throw new CommandError(`--${name}: is missing`);
      return n;
    },
    choice: (name, words) => {
      const value = text(name);
      if (value === undefined) return undefined;
      const word = words.find((known) => known === value);
      if (!word) throw new CommandError(`--${name}: “${value}” is not one of ${words.join(', ')}`);
      return word;
    },
  };
}
