import type { Change, Organisation, Thresholds, WorkKind } from '@underpass/contracts';
import { assumedFigures, faultOfAssumed, shippedThresholds } from '@underpass/core';
import { useTyped } from '../ui/useTyped.js';

/** A threshold of a kind of work. */
export type ThresholdKey = keyof Thresholds;
const bounds: Record<ThresholdKey, readonly [least: number, most: number]> = {
  keyToPixelMs: [1, 60_000],
  framesAtLeast: [1, 240],
  voiceMosAtLeast: [1, 4.5],
  usableWithinS: [1, 3600],
  lossAtMostPercent: [0, 100],
};
const shipped = new Map(assumedFigures.map((each) => [each.key, each.value]));

const nothing = {};
const isNumber = (text: string) => text.trim() !== '' && Number.isFinite(Number(text));
const without = (fields: Record<string, unknown>) => Object.keys(fields).length === 0;
const same = (a: unknown, b: unknown) => JSON.stringify(a) === JSON.stringify(b);

/** What is typed over the figures of an organisation: as the change it would be, with what is wrong beside each field. */
export function useAssumed(organisation: Organisation | null) {
  const [texts, setTexts] = useTyped<Readonly<Record<string, string>>>('assumed', nothing);
  const type = (key: string, text: string) => setTexts((now) => ({ ...now, [key]: text }));
  const forget = () => setTexts(nothing);
  const assumed = organisation?.assumed ?? {};
  const thresholds = organisation?.thresholds ?? {};
  const faults: Record<string, string> = {};
  const set: Record<string, unknown> = {};
  const was: Record<string, unknown> = {};

  const next: Record<string, number> = { ...assumed };
  for (const [key, text] of Object.entries(texts)) {
    if (!shipped.has(key)) continue;
    if (!isNumber(text)) faults[key] = 'must be a number';
    else if (Number(text) === shipped.get(key)) delete next[key];
    else next[key] = Number(text);
  }
  const fault = faultOfAssumed(next);
  if (fault) faults[fault.field.replace('assumed.', '')] ??= fault.problem;
  for (const key of Object.keys(texts)) {
    if (!shipped.has(key) || next[key] === assumed[key]) continue;
    set[`assumed.${key}`] = next[key] ?? null;
    was[`assumed.${key}`] = assumed[key] ?? null;
  }

  for (const work of Object.keys(shippedThresholds) as WorkKind[]) {
    const now = thresholds[work] ?? shippedThresholds[work];
    const after: Record<string, number> = { ...now };
    for (const [field, [least, most]] of Object.entries(bounds)) {
      const key = `${work}.${field}`;
      const text = texts[key];
      if (text === undefined) continue;
      const may = field === 'lossAtMostPercent' || field === 'voiceMosAtLeast';
      if (text.trim() === '' && may) delete after[field];
      else if (!isNumber(text)) faults[key] = 'must be a number';
      else if (Number(text) < least || Number(text) > most) faults[key] = `must be ${least} to ${most}`;
      else after[field] = Number(text);
    }
    if (same(after, now)) continue;
    set[`thresholds.${work}`] = same(after, shippedThresholds[work]) ? null : after;
    was[`thresholds.${work}`] = thresholds[work] ?? null;
  }

  const changed = Object.keys(set).length;
  const change: Change | null =
    without(set) || !without(faults)
      ? null
      : {
          patches: [
            organisation
              ? { do: 'change', kind: 'organisation', id: 'organisation', set, was }
              : { do: 'create', kind: 'organisation', id: 'organisation', object: made(set) },
          ],
          hypotheses: [],
        };
  return { texts, type, forget, faults, changed, change, assumed, thresholds };
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

/** What the tables of figures are given. */
export type AssumedForm = ReturnType<typeof useAssumed>;
