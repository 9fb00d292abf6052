import { definitionOf } from '@underpass/core';
import type { SettingValue } from '@underpass/contracts';
import { labelOf } from '../ui/form/labels.js';
import { fixed } from '../ui/figures.js';
import { valueText } from './valueWords.js';

const owners: Readonly<Record<string, string>> = {
  endpoint: 'the endpoint',
  resource: 'what is opened',
  pool: 'the pool',
  gateway: 'the gateway',
  person: 'the person',
  line: 'the line',
  location: 'the place',
};

/** A fact that two crossings have otherwise, in words. */
export function factText(fact: string): string {
  const setting = definitionOf(fact);
  if (setting) return `${setting.label}, a setting`;
  const at = fact.indexOf('.');
  if (at < 0) return fact.slice(0, 1).toUpperCase() + fact.slice(1);
  const [owner, name] = [fact.slice(0, at), fact.slice(at + 1)];
  const label = labelOf(name);
  return owner === 'measured' ? `${label}, measured` : `${label} of ${owners[owner] ?? owner}`;
}

const figure = (value: number): string => (Number.isInteger(value) ? String(value) : fixed(value, Math.abs(value) < 10 ? 2 : 1, 0));

/** A label within a sentence: units and abbreviations stay as they are written. @example "Mean Mbit/s" is "mean Mbit/s" */
const small = (label: string): string => (/^[A-Z]{2}/.test(label) ? label : label.slice(0, 1).toLowerCase() + label.slice(1));

/** What a fact is, in words and figures a person can read; nothing is left as it is written in a program. */
export function factValue(fact: string, value: unknown): string {
  if (value === null || value === undefined) return 'not known';
  if (definitionOf(fact)) return valueText(fact, value as SettingValue);
  if (typeof value === 'boolean') return value ? 'yes' : 'no';
  if (typeof value === 'number') return figure(value);
  if (typeof value === 'string') return value;
  if (Array.isArray(value)) return value.length === 0 ? 'none' : value.map((each) => factValue('', each)).join('; ');
  return Object.entries(value as object)
    .filter(([, each]) => each !== undefined && each !== null)
    .map(([name, each]) => `${small(labelOf(name))} ${factValue('', each)}`)
    .join(', ');
}
