import { deskKeys } from '../../screens/index.js';
import { settingKeys } from '../../settings/index.js';
import { readLine, type UnreadBecause } from './line.js';

/** A file of configuration: INI with sections. */
export interface ConfigText {
  /** As it is told of. */
  name: string;
  text: string;
}
/** A value that counts, and where it is from; lines count from 1. */
export interface MergedValue {
  section: string;
  key: string;
  value: string;
  file: string;
  line: number;
}
/** Something wrong with a line; lines count from 1. */
export interface ConfigProblem {
  file: string;
  line: number;
  text: string;
}
/** What files come to together. */
export interface Merged {
  values: MergedValue[];
  problems: ConfigProblem[];
  /** Of the problems those for which a line is left out; a device that has no earlier file does not go on with such a one. */
  unread: (ConfigProblem & { because: UnreadBecause })[];
  /** Sections that a comment switches off. */
  switchedOff: { section: string; file: string; line: number }[];
}

/** What every device knows besides the settings: where the broker is that it signs in at, and how its screens stand. */
const others = ['broker.address', ...deskKeys.map((key) => `screens.${key}`)];
const known = new Set<string>([...settingKeys, ...others]);
const sections = new Set([...known].map((key) => key.slice(0, key.indexOf('.'))));

/**
 * Merges files in the order given: a later value counts, unless an earlier file locked its key with “!”. What is wrong is told with
 * its line, and as much as can be is kept: nothing here keeps a device from starting.
 */
export function mergeConfig(files: readonly ConfigText[]): Merged {
  const values = new Map<string, MergedValue & { lockedBy: { file: number; line: number } | null }>();
  const problems: ConfigProblem[] = [];
  const [unread, switchedOff]: [Merged['unread'], Merged['switchedOff']] = [[], []];
  for (const [n, { name: file, text }] of files.entries()) {
    let section = '';
    const here = new Map<string, number>();
    for (const [i, raw] of text
      .replace(/^\uFEFF/, '')
      .split(/\r\n|\n|\r/)
      .entries()) {
      const line = i + 1;
      const tell = (problem: string) => void problems.push({ file, line, text: problem });
      const read = readLine(raw);
      if (read.is === 'wrong') {
        tell(read.problem);
        unread.push({ file, line, text: read.problem, because: read.because });
      }
      if (read.is === 'comment' && read.switchedOff !== null) {
        tell(`this section is switched off: [${read.switchedOff}]`);
        switchedOff.push({ section: read.switchedOff, file, line });
      }
      if (read.is === 'section') {
        section = read.name;
        if (read.problem) tell(read.problem);
        if (!sections.has(section)) tell(`no section is called [${section}]`);
      }
      if (read.is !== 'value') continue;
      const { key, value, locked, problem } = read;
      if (problem) tell(problem);
      if (section === '') tell(`“${key}” stands before any section`);
      else if (sections.has(section) && !known.has(`${section}.${key}`)) tell(`no key of [${section}] is called “${key}”`);
      const id = `${section}\u0000${key}`;
      const before = values.get(id);
      const twice = here.get(id);
      if (twice !== undefined) tell(`“${key}” stands twice, in line ${twice} too; this line counts`);
      here.set(id, line);
      if (before?.lockedBy && before.lockedBy.file < n) {
        tell(`“${key}” is locked by ${files[before.lockedBy.file]?.name}, line ${before.lockedBy.line}; this line is left out`);
        continue;
      }
      const lock = locked ? { file: n, line } : (before?.lockedBy ?? null);
      values.set(id, { section, key, value, file, line, lockedBy: lock });
    }
  }
  return { values: [...values.values()].map(({ lockedBy: _, ...value }) => value), problems, unread, switchedOff };
}
