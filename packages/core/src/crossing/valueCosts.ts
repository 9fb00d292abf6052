import type { SettingValue, Verdict } from '@underpass/contracts';
import { definitionOf, type SettingKey } from '../settings/index.js';
import { settingsOf, type CrossingFacts } from './facts.js';
import { computeFigures } from './figures.js';
import { lintCrossing } from './lint/index.js';

/** What one value of a setting comes to on a crossing. */
export interface ValueCost {
  value: SettingValue;
  /** It is in force now. */
  isNow: boolean;
  verdict: Verdict;
  /** Asked of the line, mean and what is sent, Mbit/s. */
  downMbps: number;
  upMbps: number;
  delayMs: number;
  framesPerS: number;
  usableS: number;
  /** Part of what the endpoint can decode that is asked of it, 0 and up; null where that is not known. */
  decoding: number | null;
  /** Checks between settings that hit then: the risk of it. */
  checks: number;
}

/** Values of a setting that are worth trying: all of a few, the usual ones of a figure. */
function valuesOf(key: SettingKey, now: SettingValue): SettingValue[] {
  const definition = definitionOf(key);
  switch (definition?.type) {
    case 'switch':
      return [true, false];
    case 'choice':
      return [...definition.options];
    case 'number': {
      const steps = definition.steps ?? [definition.min, definition.default, definition.max];
      return [...new Set([...steps, now as number])].sort((a, b) => a - b);
    }
    case 'list':
      return [[...definition.options], now, []];
    default:
      return [now];
  }
}

const same = (a: SettingValue, b: SettingValue): boolean => JSON.stringify(a) === JSON.stringify(b);

/**
 * What each value of a setting costs on a crossing: rate, delay, frames, seconds, decoding, and the checks that hit. The value is put in force by itself, whatever
 * layers and locks would make of it.
 */
export function valueCosts(facts: CrossingFacts, key: SettingKey): ValueCost[] {
  const settings = settingsOf(facts);
  const now: SettingValue = settings[key] as SettingValue;
  return valuesOf(key, now).map((value): ValueCost => {
    const resolved = { ...settings, [key]: value };
    const figures = computeFigures({ ...facts, like: undefined, resolved });
    const { capacity, neededMacroblocksPerS } = figures.frames.decoding;
    return {
      ...{ value, isNow: same(value, now), verdict: figures.verdict },
      ...{ downMbps: figures.onLine.meanMbps, upMbps: figures.onLine.upMbps, delayMs: figures.delay.value },
      ...{ framesPerS: figures.frames.value, usableS: figures.timeline.totalS },
      decoding: capacity === null || capacity === 0 ? null : neededMacroblocksPerS / capacity,
      checks: lintCrossing({ ...facts, like: undefined, resolved }).length,
    };
  });
}
