import { CommandError } from './commandError.js';

export interface Options {
  positional: readonly string[];
  text: (name: string) => string | undefined;
  /** A number in a range; undefined where the option was not given. */
  number: (name: string, min: number, max: number) => number | undefined;
  needed: (name: string, min: number, max: number) => number;
  /** Whether an option that takes no value was given. */
  flag: (name: string) => boolean;
  choice: <T extends string>(name: string, words: readonly T[]) => T | undefined;
}

/** What was given to a command; a missing value or one out of range is a fault with its name. */
export function optionsOf(positional: readonly string[], given: Readonly<Record<string, string | boolean | undefined>>): Options {
  const text = (name: string) => given[name] as string | undefined;
  const number = (name: string, min: number, max: number) => {
    const value = text(name);
    if (value === undefined) return undefined;
    const n = value.trim() === '' ? NaN : Number(value);
    if (!(n >= min && n <= max)) throw new CommandError(`--${name}: “${value}” is not a number from ${min} to ${max}`);
    return n;
  };
  return {
    positional,
    text,
    number,
    needed: (name, min, max) => {
      const n = number(name, min, max);
      if (n === undefined) throw new CommandError(`--${name}: is missing`);
      return n;
    },
    flag: (name) => given[name] === true,
    choice: (name, words) => {
      const value = text(name);
      if (value === undefined) return undefined;
      const word = words.find((known) => known === value);
      if (!word) throw new CommandError(`--${name}: “${value}” is not one of ${words.join(', ')}`);
      return word;
    },
  };
}
