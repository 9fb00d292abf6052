import type { ClientKind, Endpoint } from '@underpass/contracts';

/** How entries of several layers come to one value: the nearest, the strictest, or all together. */
export type MergeRule = 'nearest' | 'strictest' | 'add';
/** What settings are about, in the order they are shown in. */
export const settingSubjects = [
  'picture',
  'screens',
  'sound',
  'media',
  'redirection',
  'security',
  'signon',
  'session',
  'transport',
  'client',
] as const;
/** What a setting is about. */
export type SettingSubjectName = (typeof settingSubjects)[number];

/** What every setting tells of itself. */
interface Common<T> {
  label: string;
  does: string;
  default: T;
  /** Where the default comes from. */
  source: string;
  merge: MergeRule;
  /** Kinds of client that do not follow it, whatever it says; common practice, no source. */
  ignoredBy?: readonly ClientKind[];
  /** Platforms of a device that do not follow it; common practice, no source. */
  ignoredOn?: readonly Endpoint['platform'][];
  /** What people say who want it found: a symptom each. */
  symptoms?: readonly string[];
}
type Switch = Common<boolean> & { type: 'switch'; /** For strictest: the safer side. */ safer?: boolean };
type Choice<O extends string> = Common<O> & { type: 'choice'; /** From free to safe, for strictest. */ options: readonly O[] };
type Figure = Common<number> & {
  type: 'number';
  unit: string;
  min: number;
  max: number;
  steps?: readonly number[];
};
type Text = Common<string> & {
  type: 'text';
  /** Words in braces that are filled in for a person; none where it is plain. */ words: readonly string[];
};
type VersionOf = Common<string> & { type: 'version'; /** For strictest: a ceiling counts the lower, the safer. */ ceiling?: true };
type List<O extends string> = Common<readonly O[]> & { type: 'list'; options: readonly O[] };

/** A setting: what it is called, does, takes, and how its layers are merged. */
export type SettingDefinition = Switch | Choice<string> | Figure | Text | VersionOf | List<string>;

const ours = 'our default; common practice, no source';
/** What is left out where it is as usual: the nearest layer wins, and the default is ours. */
type Told<D> = Omit<D, 'type' | 'merge' | 'source'> & { merge?: MergeRule; source?: string };
const usual = { merge: 'nearest', source: ours } as const;

/** A setting that is on or off. */
export const onOff = (told: Told<Switch>) => ({ ...usual, ...told, type: 'switch' as const });
/** A setting that takes one of several words. */
export const oneOf = <const O extends string>(told: Told<Choice<O>>) => ({ ...usual, ...told, type: 'choice' as const });
/** A setting that takes a number. */
export const figureOf = (told: Told<Figure>) => ({ ...usual, ...told, type: 'number' as const });
/** A setting that takes a text, in which words in braces may stand. */
export const textOf = (told: Told<Text>) => ({ ...usual, ...told, type: 'text' as const });
/** A setting that takes a version. */
export const versionOf = (told: Told<VersionOf>) => ({ ...usual, ...told, type: 'version' as const });
/** A setting that takes a list; lists of several layers add up. */
export const listOf = <const O extends string>(told: Omit<Told<List<O>>, 'merge'>) => ({
  ...usual,
  ...told,
  merge: 'add' as const,
  type: 'list' as const,
});
