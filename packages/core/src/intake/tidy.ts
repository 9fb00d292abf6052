import { plainWords } from './fieldWords.js';
import { readAmount, readDay, type FigureStyle, type Tidied } from './figures.js';
import type { IntakeField } from './target.js';
import { noWords, valueWords, yesWords } from './valueWords.js';

/** What stands where nothing is known. */
const nothing = new Set([
  '',
  '-',
  '--',
  '–',
  '—',
  '?',
  'n/a',
  'na',
  'n.a.',
  'none given',
  'unknown',
  'unbekannt',
  'k.a.',
  'k. a.',
  'null',
  '#n/a',
  'tbd',
  'nicht bekannt',
]);
/** Whether a cell says nothing. */
export const saysNothing = (cell: string): boolean => nothing.has(cell.trim().toLowerCase());

const dayFields = /(?:On|notBefore|notAfter)$/;
const versionFields = /(?:[vV]ersion|^firmware|^release)$/;

/** What a text may be for a word, by its plain words: made once for the choices of a field, of which a list has thousands of cells. */
const meanings = new WeakMap<readonly string[], Map<string, ReadonlyMap<string, string>>>();
function meaningsOf(field: string, options: readonly string[]): ReadonlyMap<string, string> {
  let byField = meanings.get(options);
  if (!byField) meanings.set(options, (byField = new Map()));
  const known = byField.get(field);
  if (known) return known;
  const made = new Map<string, string>();
  const say = (text: string, option: string) => {
    const plain = plainWords(text);
    if (!made.has(plain)) made.set(plain, option);
  };
  for (const option of options) say(option, option);
  for (const option of options) for (const word of valueWords[field]?.[option] ?? []) say(word, option);
  byField.set(field, made);
  return made;
}

/** The word of the schema that a text stands for, by its letters or by what lists commonly call it; null where none is meant. */
export const wordFor = (text: string, field: string, options: readonly string[]): string | null =>
  options.find((option) => option === text) ?? meaningsOf(field, options).get(plainWords(text)) ?? null;

/** Screens as people write them: how many, then each by its pixels. */
function readScreens(cell: string): Tidied {
  const screens: string[] = [];
  // the comma of 59,9 Hz parts no screens
  for (const part of cell.split(/[;+|\n]|,(?!\d{1,3}\s*(?:hz\s*)?(?:[;,+|\n]|$))|\band\b|\bund\b/i)) {
    const text = part.trim();
    if (text === '') continue;
    // a screen as our files write it
    if (/^\d+x\d+(@[\d.]+)?( +(?![ @])|$)/.test(text)) {
      screens.push(text);
      continue;
    }
    const match =
      /^(?:(\d)\s*[x×]\s+|(\d)\s*[x×]\s*(?=\d{3,5}\s*[x×*]))?(\d{3,5})\s*[x×*]\s*(\d{3,5})(?:\s*@?\s*(\d{2,3}(?:[.,]\d+)?)\s*(?:hz)?)?$/i.exec(
        text,
      );
    if (!match) return { problem: `“${text}” is not a screen`, wanted: 'pixels such as 1920x1080, or 2x 1920x1080 for two' };
    const rate = match[5] ? `@${match[5].replace(',', '.')}` : '';
    for (let i = 0; i < Number(match[1] ?? match[2] ?? 1); i++) screens.push(`${match[3]}x${match[4]}${rate}`);
  }
  return { text: screens.join('; ') };
}

/**
 * What a cell means for a field, written as our own files write it.
 * @param head name of its column, which may say a unit
 */
export function tidyCell(cell: string, field: IntakeField, head: string, style: FigureStyle): Tidied {
  const text = cell.replace(/\s+/g, ' ').trim();
  if (field.type === 'number') return readAmount(text, field.name, head, style, field.whole ?? false);
  if (field.type === 'boolean') return readYesNo(text, field);
  if (field.type === 'enum') {
    const word = wordFor(text, field.name, field.options);
    return word === null ? { problem: `“${text}” is not a word known here`, wanted: field.expected } : { text: word };
  }
  if (field.type === 'list') return readList(cell, field);
  if (field.name === 'screens') return readScreens(cell);
  if (field.type === 'structured') return { text: cell.trim() };
  if (dayFields.test(field.name)) return readDay(text, style);
  if (versionFields.test(field.name)) return { text: text.replace(/^v(?:ersion)?\.?\s*(?=\d)/i, '') };
  return { text };
}

function readYesNo(text: string, field: IntakeField): Tidied {
  const word = text.toLowerCase();
  // words of a field's own, such as a cable that is in, are read by its schema
  if (yesWords.includes(word)) return { text: 'yes' };
  if (noWords.includes(word)) return { text: 'no' };
  return field.expected === 'yes or no' && /^(in|out|plugged( in)?|unplugged|(dis)?connected|none)$/.test(word)
    ? { text: word }
    : { problem: `“${text}” is neither yes nor no`, wanted: 'yes or no' };
}

function readList(cell: string, field: IntakeField): Tidied {
  const parts = cell
    .split(/[;,|\n]/)
    .map((part) => part.trim())
    .filter((part) => !saysNothing(part));
  if (field.kind || field.options.length === 0) return { text: parts.join(';') };
  const words: string[] = [];
  for (const part of parts) {
    const word = wordFor(part, field.name, field.options);
    if (word === null) return { problem: `“${part}” is not a word known here`, wanted: field.expected };
    words.push(word);
  }
  return { text: [...new Set(words)].join(';') };
}
