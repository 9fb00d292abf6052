import type { Change, Organisation, Thresholds, WorkKind } from '@underpass/contracts';
import { assumedFigures, faultOfAssumed, lossAtMost, shippedThresholds, workWords } from '@underpass/core';

/** A threshold of a kind of work. */
export type ThresholdKey = keyof Thresholds;
const bounds: Record<ThresholdKey, readonly [least: number, most: number]> = {
  keyToPixelMs: [1, 60_000],
  framesAtLeast: [1, 240],
  voiceMosAtLeast: [1, 4.5],
  usableWithinS: [1, 3600],
  lossAtMostPercent: [0, 100],
};
/** Thresholds in words, with their units. */
export const thresholdWords: Record<ThresholdKey, string> = {
  keyToPixelMs: 'Key to pixel, at most ms',
  framesAtLeast: 'Frames a second, at least',
  voiceMosAtLeast: 'Voice, at least, of 5',
  usableWithinS: 'Usable within s',
  lossAtMostPercent: 'Loss at most %',
};
const works = Object.keys(shippedThresholds) as WorkKind[];
const fields = Object.keys(bounds) as ThresholdKey[];

/** What the form holds: every figure that is assumed by its key, and what each kind of work wants. */
export type AssumedTexts = Record<string, string | Partial<Record<ThresholdKey, string>>>;

/** As it counts now. */
export function textsOfAssumed(organisation: Organisation | null): AssumedTexts {
  const texts: AssumedTexts = {};
  for (const { key, value } of assumedFigures) texts[key] = String(organisation?.assumed?.[key] ?? value);
  for (const work of works) {
    const now = organisation?.thresholds?.[work] ?? shippedThresholds[work];
    texts[work] = Object.fromEntries(
      fields.map((field) => [field, String((field === 'lossAtMostPercent' ? lossAtMost(now) : now[field]) ?? '')]),
    );
  }
  return texts;
}

/** A figure as people know it. @param key its own, or the kind of work and its threshold with a dot between */
export function figureWords(key: string): string {
  const [work, field] = key.split('.') as [WorkKind, ThresholdKey | undefined];
  if (field && work in workWords) return `${workWords[work]}: ${thresholdWords[field]}`;
  return assumedFigures.find((each) => each.key === key)?.words ?? key;
}

/**
 * What is typed, on figures that others write too: what nobody typed here follows theirs; of what both wrote the typed stays, and
 * theirs is told.
 * @param base as it counted when it was typed
 */
export function followed(
  typed: AssumedTexts,
  base: AssumedTexts,
  now: AssumedTexts,
): { texts: AssumedTexts; theirs: Readonly<Record<string, string>> } {
  const theirs: Record<string, string> = {};
  const one = (key: string, text = '', was = '', is = ''): string => {
    if (text === was) return is;
    if (was !== is && text !== is) theirs[key] = is;
    return text;
  };
  const texts = Object.entries(now).map(([key, is]): [string, AssumedTexts[string]] => {
    if (typeof is === 'string') return [key, one(key, (typed[key] ?? is) as string, base[key] as string, is)];
    const [mine, was] = [typed[key], base[key]] as [typeof is | undefined, typeof is | undefined];
    return [key, Object.fromEntries(fields.map((field) => [field, one(`${key}.${field}`, mine?.[field], was?.[field], is[field])]))];
  });
  return { texts: Object.fromEntries(texts), theirs };
}

/** Whether a figure is typed otherwise than it counts. */
export const isTyped = (typed: AssumedTexts, base: AssumedTexts): boolean =>
  Object.entries(base).some(([key, was]) => {
    const mine = typed[key];
    if (typeof was === 'string' || typeof mine !== 'object') return mine !== was;
    return fields.some((field) => (mine[field] ?? '') !== (was[field] ?? ''));
  });

/** The text of a figure. @param key as of `figureWords` */
export function textOf(texts: AssumedTexts, key: string): string {
  const own = texts[key];
  if (typeof own === 'string') return own;
  const [work = '', field] = key.split('.');
  return (texts[work] as Partial<Record<string, string>> | undefined)?.[field ?? ''] ?? '';
}

const isNumber = (text: string) => text.trim() !== '' && Number.isFinite(Number(text));
const isEmpty = (of: object) => Object.keys(of).length === 0;
const same = (a: unknown, b: unknown) => JSON.stringify(a) === JSON.stringify(b);

interface AssumedReading {
  /** What it would be to save it; null where nothing is another than before, or something is wrong. */
  change: Change | null;
  /** How many figures are another. */
  changed: number;
  /** What is wrong, by figure: its key, or the kind of work and its threshold with a dot between. */
  faults: Readonly<Record<string, string>>;
}

/**
 * What is typed over the figures of an organisation, as the change that it would be.
 * @param before as they count now
 */
export function readAssumed(organisation: Organisation | null, texts: AssumedTexts, before: AssumedTexts): AssumedReading {
  const faults: Record<string, string> = {};
  const set: Record<string, unknown> = {};
  const was: Record<string, unknown> = {};

  const assumed = organisation?.assumed ?? {};
  const next: Record<string, number> = { ...assumed };
  for (const { key, value } of assumedFigures) {
    const text = texts[key];
    if (typeof text !== 'string' || text === before[key]) continue;
    if (!isNumber(text)) faults[key] = 'must be a number';
    else if (Number(text) === value) delete next[key];
    else next[key] = Number(text);
    if (next[key] === assumed[key]) continue;
    set[`assumed.${key}`] = next[key] ?? null;
    was[`assumed.${key}`] = assumed[key] ?? null;
  }
  const fault = faultOfAssumed(next);
  if (fault) faults[fault.field.replace('assumed.', '')] ??= fault.problem;

  for (const work of works) {
    const own = organisation?.thresholds?.[work];
    const now = own ?? shippedThresholds[work];
    const after: Record<string, number> = { ...now };
    const typed = texts[work] as Partial<Record<ThresholdKey, string>> | undefined;
    for (const field of fields) {
      const text = typed?.[field];
      if (text === undefined || text === (before[work] as typeof typed)?.[field]) continue;
      const [least, most] = bounds[field];
      const may = field === 'lossAtMostPercent' || field === 'voiceMosAtLeast';
      if (text.trim() === '' && may) delete after[field];
      else if (!isNumber(text)) faults[`${work}.${field}`] = 'must be a number';
      else if (Number(text) < least || Number(text) > most) faults[`${work}.${field}`] = `must be ${least} to ${most}`;
      else after[field] = Number(text);
    }
    if (same(after, now)) continue;
    set[`thresholds.${work}`] = same(after, shippedThresholds[work]) ? null : after;
    was[`thresholds.${work}`] = own ?? null;
  }

  const change: Change | null =
    isEmpty(set) || !isEmpty(faults)
      ? null
      : {
          patches: [
            organisation
              ? { do: 'change', kind: 'organisation', id: 'organisation', set, was }
              : { do: 'create', kind: 'organisation', id: 'organisation', object: made(set) },
          ],
          hypotheses: [],
        };
  return { change, changed: Object.keys(set).length, faults };
}

/** An organisation nobody wrote down yet, with these fields. */
function made(set: Record<string, unknown>): object {
  const object: Record<string, Record<string, unknown>> = { assumed: {}, thresholds: {} };
  for (const [path, value] of Object.entries(set)) {
    const [group = '', key = ''] = path.split('.');
    if (value !== null && object[group]) object[group][key] = value;
  }
  return { id: 'organisation', name: 'Organisation', ...object };
}
