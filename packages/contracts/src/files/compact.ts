import type { Decoder, Screen } from '../estate/endpoint.js';
import { CellError } from './cellError.js';

/** Short text forms of the structured cells: screens, decoders and content mixes. */

const partWords = ['adapter', 'cable', 'input'] as const;
/** Names stand in one word: what would end it is written as a per cent sign and its number. */
const oneWord = (text: string): string => text.replace(/[\s%;]/g, encodeURIComponent);
function manyWords(text: string): string {
  try {
    return decodeURIComponent(text);
  } catch {
    throw new CellError(`“${text}” is not a name of a screen`);
  }
}

export function readScreen(text: string): unknown {
  const match = /^(\d+)x(\d+)(?:@([\d.]+))?((?:\s+\S+)*)$/.exec(text);
  if (!match) throw new CellError(`“${text}” is not a screen`);
  const screen: Record<string, unknown> = { widthPx: Number(match[1]), heightPx: Number(match[2]) };
  if (match[3]) screen.refreshHz = Number(match[3]);
  const words = (match[4] ?? '').trim().split(/\s+/).filter(Boolean);
  for (let i = 0; i < words.length; i++) {
    const word = words[i] as string;
    const place = /^([+-]\d+)([+-]\d+)$/.exec(word);
    const size = /^(\d+)x(\d+)mm$/.exec(word);
    if (word === 'scale') screen.scale = Number(words[++i]);
    else if (word === 'turned') screen.turned = Number(words[++i]);
    else if (word === 'called') screen.name = manyWords(words[++i] ?? '');
    else if (word === 'primary' || word === 'mirrors') screen[word] = true;
    else if (partWords.includes(word as (typeof partWords)[number])) screen[word] = words[++i];
    else if (place) Object.assign(screen, { x: Number(place[1]), y: Number(place[2]) });
    else if (size) Object.assign(screen, { widthMm: Number(size[1]), heightMm: Number(size[2]) });
    else screen.port = word;
  }
  return screen;
}

const signed = (n: number) => (n < 0 ? `${n}` : `+${n}`);

export function writeScreen(screen: Screen): string {
  const parts = [`${screen.widthPx}x${screen.heightPx}${screen.refreshHz === undefined ? '' : `@${screen.refreshHz}`}`];
  if (screen.scale !== 1) parts.push(`scale ${screen.scale}`);
  if (screen.port) parts.push(screen.port);
  for (const word of partWords) if (screen[word]) parts.push(`${word} ${screen[word]}`);
  if (screen.x !== undefined && screen.y !== undefined) parts.push(signed(screen.x) + signed(screen.y));
  if (screen.turned) parts.push(`turned ${screen.turned}`);
  for (const word of ['primary', 'mirrors'] as const) if (screen[word]) parts.push(word);
  if (screen.widthMm !== undefined && screen.heightMm !== undefined) parts.push(`${screen.widthMm}x${screen.heightMm}mm`);
  if (screen.name !== undefined) parts.push(`called ${oneWord(screen.name)}`);
  return parts.join(' ');
}

export function readDecoder(text: string): unknown {
  const match = /^([a-z0-9]+)@(\d(?:\.\d)?)(\+444)?$/.exec(text);
  if (!match) throw new CellError(`“${text}” is not a decoder`);
  return { codec: match[1], level: match[2], chroma444: match[3] !== undefined };
}

export const writeDecoder = (decoder: Decoder): string => `${decoder.codec}@${decoder.level}${decoder.chroma444 ? '+444' : ''}`;

export function readMix(text: string, numbers: boolean): Record<string, number | string> {
  return Object.fromEntries(
    text.split(';').map((part) => {
      const [word, value] = part.split(':').map((side) => side.trim());
      if (!word || !value) throw new CellError(`“${part.trim()}” is not a part`);
      if (numbers && !/^\d*\.?\d+$/.test(value)) throw new CellError(`“${value}” is not a number`);
      return [word, numbers ? Number(value) : value];
    }),
  );
}

export const writeMix = (value: unknown): string =>
  Object.entries((value ?? {}) as Record<string, unknown>)
    .map(([word, part]) => `${word}:${String(part)}`)
    .join(';');
