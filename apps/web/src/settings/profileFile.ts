import { readYaml, writeYaml, type SettingsOf, type SettingValue } from '@underpass/contracts';
import {
  checkedProfile,
  flatProfile,
  indexSettings,
  nestedProfile,
  profileAsIni,
  profileFromIni,
  resolveSettings,
  type Profile,
  type ReadProfile,
} from '@underpass/core';

export type ProfileFormat = 'json' | 'yaml' | 'ini';
export const profileFormats: readonly ProfileFormat[] = ['json', 'yaml', 'ini'];
/** A profile is far below this; more is none. */
const mostLetters = 500_000;

/** Everything in force for somebody, by key. */
export const profileOf = ({ entries, subject }: SettingsOf): Profile =>
  resolveSettings(indexSettings(entries.map(({ entry }) => entry)), subject) as unknown as Record<string, SettingValue>;

/** A profile as a file. */
export function profileText(profile: Profile, format: ProfileFormat): string {
  switch (format) {
    case 'json':
      return `${JSON.stringify(nestedProfile(profile), null, 2)}\n`;
    case 'yaml':
      return writeYaml(nestedProfile(profile));
    case 'ini':
      return profileAsIni(profile);
  }
}

/** A profile from a file, whatever its form is; or why it is none, with the line. */
export function readProfile(text: string): { read: ReadProfile; all: Profile } | { fault: string } {
  if (text.length > mostLetters) return { fault: 'That is longer than a profile can be.' };
  const trimmed = text.trim();
  if (trimmed === '') return { fault: 'The file is empty.' };
  const of = (content: unknown) => {
    const { profile, faults } = flatProfile(content);
    const read = checkedProfile(profile);
    return { read: { ...read, faults: [...faults, ...read.faults] }, all: profile };
  };
  if (trimmed.startsWith('{')) {
    try {
      return of(JSON.parse(trimmed));
    } catch (error) {
      return { fault: `That is no JSON: ${(error as Error).message}` };
    }
  }
  if (/^\s*\[[A-Za-z0-9_-]+\]\s*$/m.test(text)) {
    const { profile, wrong } = profileFromIni(text);
    const [first] = wrong;
    if (first) return { fault: `Line ${first.line} makes no sense: “${first.text}”. A line is a name, an equals sign and a value.` };
    return { read: checkedProfile(profile), all: profile };
  }
  try {
    return of(readYaml(text));
  } catch (error) {
    return { fault: `That is no profile: ${(error as Error).message.split('\n')[0]}` };
  }
}
